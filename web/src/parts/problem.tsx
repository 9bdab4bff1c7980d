import Alert from '@mui/material/Alert';
import { wordsOf } from '../api.js';

/** A refusal on the page: what, why, and what to do. */
export function ProblemNote({ error }: { error: unknown }) {
  if (!error) return null;
  const { says, cure } = wordsOf(error);
  return (
    <Alert severity="error">
      <b>{says}</b> {cure}
    </Alert>
  );
}
