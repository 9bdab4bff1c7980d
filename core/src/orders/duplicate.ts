/** What two orders are compared by. `lines` tells product (or channel SKU) and quantity; times are milliseconds since 1970. */
export interface DuplicateFacts {
  mail: string;
  name: string;
  street: string;
  postcode: string;
  lines: readonly { key: string; quantity: number }[];
  placedAt: number;
}

/** How likely two orders are the same purchase made twice, from 0 to 1, and why. */
export interface DuplicateScore {
  score: number;
  why: string[];
}

/** From this score on an order is stopped until a person says that it is one of its own. */
export const SUSPECT_FROM = 0.85;

const HOUR = 3_600_000;
const plain = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');

/** The lines as one text, whatever their order; equal texts are equal purchases. */
export function linesKey(lines: DuplicateFacts['lines']): string {
  const sums = new Map<string, number>();
  for (const l of lines) sums.set(l.key, (sums.get(l.key) ?? 0) + l.quantity);
  return [...sums]
    .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
    .map(([k, n]) => `${n} ${k}`)
    .join('\n');
}

/** Under which two orders must meet to be compared at all: what was bought, and the buyer by mail or by name and postcode. */
export function duplicateKeys(f: DuplicateFacts): string[] {
  const lines = linesKey(f.lines);
  const buyer = [`${plain(f.name)} ${plain(f.postcode)}`, ...(f.mail ? [f.mail.toLowerCase()] : [])];
  return buyer.map(b => `${b}\n${lines}`);
}

/**
 * Suspicion that two orders are one purchase: the same things (0.4), the same buyer by mail or by name and postcode (0.25), the same
 * street and postcode (0.15), placed within an hour (0.2), a day (0.15) or three days (0.05) of each other. Symmetric.
 */
export function suspectDuplicate(a: DuplicateFacts, b: DuplicateFacts): DuplicateScore {
  const hours = Math.abs(a.placedAt - b.placedAt) / HOUR;
  const near = hours <= 1 ? 0.2 : hours <= 24 ? 0.15 : hours <= 72 ? 0.05 : 0;
  const sameBuyer =
    (a.mail !== '' && a.mail.toLowerCase() === b.mail.toLowerCase()) ||
    (plain(a.name) === plain(b.name) && plain(a.postcode) === plain(b.postcode));
  const found: [on: boolean, points: number, why: string][] = [
    [linesKey(a.lines) === linesKey(b.lines), 0.4, 'the same things'],
    [sameBuyer, 0.25, 'the same buyer'],
    [
      plain(a.street) === plain(b.street) && plain(a.postcode) === plain(b.postcode),
      0.15,
      'the same address',
    ],
    [near > 0, near, hours <= 1 ? 'within an hour' : hours <= 24 ? 'within a day' : 'within three days'],
  ];
  const on = found.filter(([is]) => is);
  return { score: Math.round(on.reduce((n, [, p]) => n + p, 0) * 100) / 100, why: on.map(([, , w]) => w) };
}

/** What decides whether two orders may travel as one: buyer and address, letter case and signs aside. */
export function togetherKey(a: {
  mail: string;
  name: string;
  street: string;
  street2: string;
  postcode: string;
  country: string;
}): string {
  return [
    a.mail.toLowerCase() || plain(a.name),
    plain(a.name),
    plain(a.street),
    plain(a.street2),
    plain(a.postcode),
    a.country,
  ].join('\n');
}
