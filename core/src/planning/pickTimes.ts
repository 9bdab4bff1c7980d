/** What picking takes: seconds to set up a walk, to stop at a place, to take a unit, to sort a unit at a wall; and how fast one walks, in tenths of a millimetre a second. */
export interface PickTimes {
  setUp: number;
  speed: number;
  stop: number;
  unit: number;
  sort: number;
}

/** Times to begin with, until a house's own scans tell better ones: a minute and a half to set up, one metre a second, common practice. */
export const FIRST_TIMES: PickTimes = { setUp: 90, speed: 10_000, stop: 8, unit: 3, sort: 4 };

/** A walk as the times see it: its length in tenths of a millimetre, its stops and units. */
export interface WalkSize {
  distance: number;
  stops: number;
  units: number;
}

/** Seconds that a walk takes, without sorting. */
export const walkSeconds = (times: PickTimes, walk: WalkSize): number =>
  times.setUp + walk.distance / times.speed + walk.stops * times.stop + walk.units * times.unit;

/** A walk that was walked, and how long it took. */
export interface Walked extends WalkSize {
  seconds: number;
}

/** Times are learned from so many stops on. */
export const ENOUGH_STOPS = 200;

/**
 * Times learned from walks, the oldest first. The first four fifths teach (least squares of the seconds, each time drawn towards
 * `before` with the weight of ten walks, none below a tenth of it); the last fifth tests: `error` is the mean share by which the
 * learned times miss those later walks, `errorBefore` the same of `before`. Null below 200 stops.
 */
export function learnTimes(
  walks: readonly Walked[],
  before: PickTimes,
): { times: PickTimes; error: number; errorBefore: number; stops: number } | null {
  const stops = walks.reduce((n, w) => n + w.stops, 0);
  const later = walks.slice(Math.ceil(walks.length * 0.8));
  if (stops < ENOUGH_STOPS || later.length === 0) return null;
  const prior = [before.setUp, 1 / before.speed, before.stop, before.unit];
  const [setUp, pace, stop, unit] = fit(walks.slice(0, walks.length - later.length), prior) as Four;
  const times = { ...before, setUp, speed: 1 / pace, stop, unit };
  return { times, error: missed(times, later), errorBefore: missed(before, later), stops };
}

type Four = [number, number, number, number];

const missed = (times: PickTimes, walks: readonly Walked[]): number =>
  walks.reduce((sum, w) => sum + Math.abs(walkSeconds(times, w) - w.seconds) / w.seconds, 0) / walks.length;

/** Least squares of seconds over (1, distance, stops, units), drawn towards `prior`; what would fall below a tenth of it stays there. */
function fit(walks: readonly Walked[], prior: readonly number[]): number[] {
  // In units of the prior all unknowns are about one, which keeps the equations well behaved.
  const rows = walks.map(w => [1, w.distance, w.stops, w.units].map((x, k) => x * prior[k]!));
  const seconds = walks.map(w => w.seconds);
  const size = rows.reduce((n, r) => n + r.reduce((m, x) => m + x * x, 0), 0) / (4 * rows.length);
  const pull = 10 * size;
  const fixed = new Set<number>();
  for (;;) {
    const free = [0, 1, 2, 3].filter(k => !fixed.has(k));
    const rest = seconds.map((s, i) => s - [...fixed].reduce((n, k) => n + 0.1 * rows[i]![k]!, 0));
    const normal = free.map(k =>
      free.map(l => rows.reduce((n, r) => n + r[k]! * r[l]!, 0) + (k === l ? pull : 0)),
    );
    const right = free.map(k => rows.reduce((n, r, i) => n + r[k]! * rest[i]!, 0) + pull);
    const solved = solve(normal, right);
    const low = free.filter((_, i) => solved[i]! < 0.1);
    if (low.length === 0) return prior.map((p, k) => p * (fixed.has(k) ? 0.1 : solved[free.indexOf(k)]!));
    for (const k of low) fixed.add(k);
  }
}

/** Solves a symmetric positive system by Gaussian elimination; the pull towards the prior keeps it positive. */
function solve(matrix: readonly number[][], right: readonly number[]): number[] {
  const n = right.length;
  const m = matrix.map((row, i) => [...row, right[i]!]);
  for (let p = 0; p < n; p++)
    for (let r = p + 1; r < n; r++) {
      const factor = m[r]![p]! / m[p]![p]!;
      for (let c = p; c <= n; c++) m[r]![c]! -= factor * m[p]![c]!;
    }
  const x: number[] = new Array<number>(n).fill(0);
  for (let r = n - 1; r >= 0; r--) {
    const known = x.reduce((sum, v, c) => (c > r ? sum + v * m[r]![c]! : sum), 0);
    x[r] = (m[r]![n]! - known) / m[r]![r]!;
  }
  return x;
}
