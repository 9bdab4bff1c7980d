import Skeleton from '@mui/material/Skeleton';
import { ProblemNote } from './problem.js';

/** Stands where something will stand: grey lines while it is asked for, or why it cannot be shown. */
export function Waiting({ error }: { error: unknown }) {
  if (error) return <ProblemNote error={error} />;
  return (
    <div role="status" aria-label="Asking …">
      <Skeleton variant="text" width="40%" height="2.5rem" />
      <Skeleton variant="text" width="65%" />
      <Skeleton variant="rounded" height="12rem" sx={{ mt: 2 }} />
    </div>
  );
}
