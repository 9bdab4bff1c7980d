/** Units that go to one center, by product. */
export interface PlanPart {
  center: string;
  lines: readonly { sku: string; units: number }[];
}

/** A product of which a center is to get other units than were made ready for it. */
export interface PlanChange {
  center: string;
  sku: string;
  before: number;
  now: number;
}

/**
 * What of a plan is not as it was: every center and product whose units differ, what becomes less first, for that is to be taken out of
 * boxes. A center may stand in several parts of either plan; their units count together. Example: 30 to Columbus that become 18 there and
 * 12 to Reno are two changes.
 */
export function planChanges(before: readonly PlanPart[], now: readonly PlanPart[]): PlanChange[] {
  const changes = new Map<string, PlanChange>();
  const count = (parts: readonly PlanPart[], when: 'before' | 'now') => {
    for (const { center, lines } of parts)
      for (const { sku, units } of lines) {
        const key = JSON.stringify([center, sku]);
        const known = changes.get(key) ?? { center, sku, before: 0, now: 0 };
        changes.set(key, { ...known, [when]: known[when] + units });
      }
  };
  count(before, 'before');
  count(now, 'now');
  return [...changes.values()]
    .filter(c => c.before !== c.now)
    .sort(
      (a, b) =>
        Math.sign(a.now - a.before) - Math.sign(b.now - b.before) ||
        a.center.localeCompare(b.center, 'en') ||
        a.sku.localeCompare(b.sku, 'en'),
    );
}

/** A change in words, such as "18 instead of 30 × HTL-J10 to Columbus". */
export const planChangeSays = ({ center, sku, before, now }: PlanChange): string =>
  `${now} instead of ${before} × ${sku} to ${center}`;

/**
 * What of a plan is left when some of it stands as it was made ready: the units of each center beyond what stands for it. Centers of
 * which nothing is left are not among them.
 */
export function planBeyond(now: readonly PlanPart[], stands: readonly PlanPart[]): PlanPart[] {
  return now.flatMap(({ center, lines }) => {
    const there = stands.filter(s => s.center === center).flatMap(s => s.lines);
    const left = lines.flatMap(l => {
      const units = l.units - there.filter(t => t.sku === l.sku).reduce((n, t) => n + t.units, 0);
      return units > 0 ? [{ sku: l.sku, units }] : [];
    });
    return left.length > 0 ? [{ center, lines: left }] : [];
  });
}
