import type { Visit } from '../picking/visit.js';

/** How much two visits have in common: three for each way that both go on, less one for each that only one does. A cheap guess at what joining them saves. */
export function shared(a: Visit, b: Visit): number {
  let score = 0;
  for (let way = 0; way < Math.max(a.length, b.length); way++)
    score += a[way] && b[way] ? 3 : a[way] || b[way] ? -1 : 0;
  return score;
}

/** The share of a visit's ways that another one goes on too, from 0 to 1. */
export function covered(visit: Visit, by: Visit): number {
  let [ways, also] = [0, 0];
  for (let way = 0; way < visit.length; way++) {
    if (!visit[way]) continue;
    ways++;
    if (by[way]) also++;
  }
  return ways === 0 ? 1 : also / ways;
}

/** What scores highest, at most `n`; of equal scores the first. */
export function best<T>(scored: readonly { of: T; score: number }[], n: number): T[] {
  const top: { of: T; score: number }[] = [];
  for (const one of scored) {
    if (top.length === n && one.score <= top[n - 1]!.score) continue;
    const at = top.findIndex(t => t.score < one.score);
    top.splice(at === -1 ? top.length : at, 0, one);
    if (top.length > n) top.pop();
  }
  return top.map(t => t.of);
}
