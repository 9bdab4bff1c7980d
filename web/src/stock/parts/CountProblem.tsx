import Button from '@mui/material/Button';
import { Refused } from '../../api.js';
import { ProblemNote } from '../../parts/problem.js';

/** Why a count cannot go on or be booked; one that is too old is begun anew. */
export function CountProblem({ error, begin }: { error: unknown; begin: () => void }) {
  const tooLate = error instanceof Refused && error.problem.status === 409;
  return (
    <>
      <ProblemNote error={error} />
      {tooLate && (
        <Button variant="outlined" color="secondary" onClick={begin}>
          Begin the count anew
        </Button>
      )}
    </>
  );
}
