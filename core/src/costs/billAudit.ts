import { formatMoney } from '../money/money.js';
import { formatWeight } from '../units/units.js';

/** A part of a price, in minor units of the bill. */
export interface BilledCharge {
  name: string;
  minor: number;
}

/** A row of a carrier's bill. `weightMg` is what it says that it weighed; null where it does not say. */
export interface BillLine {
  tracking: string;
  service: string;
  weightMg: number | null;
  minor: number;
  charges: readonly BilledCharge[];
}

/** What was bought under a tracking number: what was agreed in minor units of the same currency, of what, at which weight, and what became of it. */
export interface AgreedLabel {
  state: 'bought' | 'voided' | 'void asked';
  minor: number;
  currency: string;
  charges: readonly BilledCharge[];
  weightMg: number | null;
  /** The number of the bill on which it stood before; null when on none. */
  billedOn: string | null;
}

/** What a row comes to. All but the first two are claimed. */
export const VERDICTS = ['agrees', 'cheaper', 'dearer', 'heavier', 'twice', 'voided', 'unknown'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** A row that was compared: what was agreed (null: nothing), what is claimed back, and why, in words for the carrier. */
export interface AuditedLine {
  verdict: Verdict;
  agreedMinor: number | null;
  claimMinor: number;
  says: string;
}

/** A weight that a carrier finds is taken as ours when it is off by no more than this share of it: scales differ. */
const SCALES_DIFFER = 0.02;

/**
 * Compares a row of a bill with what was bought. Nothing of what nobody bought, of what stood on a bill before, and of what was given back
 * is owed; of what is dearer the difference is claimed, with the charges that make it.
 */
export function auditLine(line: BillLine, bought: AgreedLabel | null, currency: string): AuditedLine {
  const money = (minor: number) => formatMoney(minor, currency);
  const all = (verdict: Verdict, says: string): AuditedLine => ({
    verdict,
    agreedMinor: 0,
    claimMinor: line.minor,
    says,
  });
  if (!bought) return { ...all('unknown', 'No parcel of ours has this number.'), agreedMinor: null };
  if (bought.billedOn !== null) return all('twice', `It stood on the bill ${bought.billedOn} already.`);
  if (bought.state !== 'bought') return all('voided', 'Its label was given back.');
  if (bought.currency !== currency)
    return {
      ...all('dearer', `It was agreed in ${bought.currency}, and the bill is in ${currency}.`),
      agreedMinor: null,
    };
  const off = line.minor - bought.minor;
  const agreed = { agreedMinor: bought.minor, claimMinor: Math.max(0, off) };
  if (off === 0) return { ...agreed, verdict: 'agrees', says: '' };
  if (off < 0) return { ...agreed, verdict: 'cheaper', says: `${money(-off)} less than was agreed.` };
  const parts = differences(line.charges, bought.charges, money);
  const why = parts.length > 0 ? `: ${parts.join('; ')}` : '';
  const { weightMg: theirs } = line;
  const { weightMg: ours } = bought;
  const heavier = theirs !== null && ours !== null && theirs > ours * (1 + SCALES_DIFFER);
  if (heavier)
    return {
      ...agreed,
      verdict: 'heavier',
      says: `Billed at ${formatWeight(theirs, 'imperial')}, weighed here at ${formatWeight(ours, 'imperial')}; ${money(off)} more${why}.`,
    };
  return { ...agreed, verdict: 'dearer', says: `${money(off)} more than was agreed${why}.` };
}

/** Charge by charge, what is more than was agreed. A bill that does not itemise has one charge or none, and tells nothing here. */
function differences(
  billed: readonly BilledCharge[],
  agreed: readonly BilledCharge[],
  money: (minor: number) => string,
): string[] {
  const sums = (charges: readonly BilledCharge[]) => {
    const by = new Map<string, { name: string; minor: number }>();
    for (const { name, minor } of charges) {
      const key = name.trim().toLowerCase();
      by.set(key, { name, minor: (by.get(key)?.minor ?? 0) + minor });
    }
    return by;
  };
  const ours = sums(agreed);
  return [...sums(billed)].flatMap(([key, { name, minor }]) => {
    const known = ours.get(key)?.minor;
    if (known === undefined) return [`${name} ${money(minor)} was not agreed`];
    return minor > known ? [`${name} ${money(minor)} instead of ${money(known)}`] : [];
  });
}
