import { wordsOf } from '../api.js';

/** A refusal on the page: what, why, and what to do. */
export function ProblemNote({ error }: { error: unknown }) {
  if (!error) return null;
  const { says, cure } = wordsOf(error);
  return (
    <div className="problem" role="alert">
      <b>{says}</b> {cure}
    </div>
  );
}
