/** A center, and which part of the demand it serves; the shares need not add up to one. */
export interface DemandShare {
  center: string;
  share: number;
}

/** What goes to one center: units of each line, by the line's place. */
export interface PlacedAtCenter {
  center: string;
  units: number[];
}

/**
 * Spreads lines over centers by their shares of the demand, in whole cases: each center gets its share rounded down, and what is left
 * goes case by case to the centers that are furthest below theirs (largest remainder; Hamilton's method). Centers that get nothing are
 * left out. Every unit is placed once. `perCase` is 1 where units may be spread singly; what does not fill a case goes to the first.
 */
export function spreadLines(
  lines: readonly { units: number; perCase: number }[],
  shares: readonly DemandShare[],
): PlacedAtCenter[] {
  const whole = shares.reduce((sum, s) => sum + s.share, 0);
  const placed = shares.map(({ center }): PlacedAtCenter => ({ center, units: lines.map(() => 0) }));
  if (placed.length === 0) return [];
  lines.forEach(({ units, perCase }, line) => {
    const cases = Math.floor(units / perCase);
    const exact = shares.map(s => (whole > 0 ? (cases * s.share) / whole : cases / shares.length));
    const given = exact.map(Math.floor);
    const order = shares
      .map((_, i) => i)
      .sort((a, b) => exact[b]! - given[b]! - (exact[a]! - given[a]!) || a - b);
    let left = cases - given.reduce((sum, n) => sum + n, 0);
    for (const i of order) if (left-- > 0) given[i]!++;
    given.forEach((n, i) => {
      placed[i]!.units[line]! += n * perCase;
    });
    placed[0]!.units[line]! += units - cases * perCase;
  });
  return placed.filter(p => p.units.some(n => n > 0));
}
