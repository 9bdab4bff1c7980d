/**
 * An order in which to visit n points between a fixed first and last one, short but not surely the shortest: nearest insertion, then
 * 2-opt (Croes, Operations Research 6, 1958) and Or-opt (moving one to three points; Or, 1976), until neither helps.
 * `between[i][j]` are symmetric distances of the points 0 to n-1; `first` and `last` the distances from the start and to the end.
 * Equal choices go to the lower index, so that the same points give the same order.
 */
export function improvedTour(
  between: readonly ArrayLike<number>[],
  first: ArrayLike<number>,
  last: ArrayLike<number>,
): { order: number[]; distance: number } {
  const n = between.length;
  if (n === 0) return { order: [], distance: 0 };
  const cost = (a: number, b: number): number =>
    a === n ? (b === n ? 0 : first[b]!) : b === n ? last[a]! : between[a]![b]!;
  // The point n stands at both ends: it is the start when something follows it, and the end when something goes before.
  let order = insertion(n, cost);
  for (let better = true; better; ) {
    const next = twoOpt(order, cost) ?? orOpt(order, cost);
    better = next !== null;
    if (next) order = next;
  }
  const distance = order.slice(1).reduce((sum, p, i) => sum + cost(order[i]!, p), 0);
  return { order: order.slice(1, -1), distance };
}

type Cost = (a: number, b: number) => number;

function insertion(n: number, cost: Cost): number[] {
  const order = [n, n];
  const left = Array.from({ length: n }, (_, i) => i);
  while (left.length > 0) {
    let best = { extra: Infinity, point: 0, at: 0 };
    for (const point of left)
      for (let at = 1; at < order.length; at++) {
        const [a, b] = [order[at - 1]!, order[at]!];
        const extra = cost(a, point) + cost(point, b) - cost(a, b);
        if (extra < best.extra) best = { extra, point, at };
      }
    order.splice(best.at, 0, best.point);
    left.splice(left.indexOf(best.point), 1);
  }
  return order;
}

/** The first reversal of a stretch that shortens the walk, or null. */
function twoOpt(order: readonly number[], cost: Cost): number[] | null {
  for (let i = 1; i < order.length - 2; i++)
    for (let j = i + 1; j < order.length - 1; j++) {
      const [a, b, c, d] = [order[i - 1]!, order[i]!, order[j]!, order[j + 1]!];
      if (cost(a, c) + cost(b, d) < cost(a, b) + cost(c, d))
        return [...order.slice(0, i), ...order.slice(i, j + 1).reverse(), ...order.slice(j + 1)];
    }
  return null;
}

/** The first move of one to three neighbours to another gap, either way round, that shortens the walk, or null. */
function orOpt(order: readonly number[], cost: Cost): number[] | null {
  for (let length = 1; length <= 3; length++)
    for (let i = 1; i + length < order.length; i++) {
      const part = order.slice(i, i + length);
      const rest = [...order.slice(0, i), ...order.slice(i + length)];
      const saved =
        cost(order[i - 1]!, part[0]!) +
        cost(part.at(-1)!, order[i + length]!) -
        cost(order[i - 1]!, order[i + length]!);
      for (let at = 1; at < rest.length; at++)
        for (const turned of [part, [...part].reverse()]) {
          const [a, b] = [rest[at - 1]!, rest[at]!];
          if (cost(a, turned[0]!) + cost(turned.at(-1)!, b) - cost(a, b) < saved)
            return [...rest.slice(0, at), ...turned, ...rest.slice(at)];
        }
    }
  return null;
}
