/**
 * What a walk must see, without order: for each way (an aisle, or a column of a grid) the sorted, distinct places along it; a hole
 * where there is none. Never changed, only replaced.
 */
export type Visit = readonly (readonly number[] | undefined)[];

/** A visit of so many ways from places on them. */
export function visitFrom(ways: number, places: readonly { way: number; along: number }[]): Visit {
  const all: (number[] | undefined)[] = new Array(ways).fill(undefined);
  for (const { way, along } of places) {
    const have = all[way];
    if (have) have.push(along);
    else all[way] = [along];
  }
  return all.map(tidied);
}

/** What several visits see together. */
export function together(visits: readonly Visit[]): Visit {
  const all: (number[] | undefined)[] = [];
  for (const visit of visits)
    for (let way = 0; way < visit.length; way++) {
      const own = visit[way];
      if (!own) continue;
      const have = all[way];
      if (have) have.push(...own);
      else all[way] = [...own];
    }
  for (let way = 0; way < all.length; way++) all[way] = tidied(all[way]);
  return all;
}

/** Sorted, each number once. */
function tidied<T extends number[] | undefined>(numbers: T): T {
  if (!numbers || numbers.length < 2) return numbers;
  numbers.sort((a, b) => a - b);
  let kept = 1;
  for (let i = 1; i < numbers.length; i++)
    if (numbers[i] !== numbers[kept - 1]) numbers[kept++] = numbers[i]!;
  numbers.length = kept;
  return numbers;
}
