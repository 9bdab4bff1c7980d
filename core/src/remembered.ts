/**
 * A function that works out each answer once and remembers it: for questions that are asked over and over while one piece of work is done.
 * What it is asked by must tell all of the answer.
 */
export function remembered<Q extends readonly (string | number | boolean)[], A>(
  workOut: (...question: Q) => A,
): (...question: Q) => A {
  const known = new Map<string, A>();
  return (...question) => {
    const key = question.join('\n');
    if (known.has(key)) return known.get(key)!;
    const answer = workOut(...question);
    known.set(key, answer);
    return answer;
  };
}
