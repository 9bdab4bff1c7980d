import { apportion } from '../money/apportion.js';

/** A piece of a line: units of one product in all parcels of the order, what one is worth by itself (null: unknown), and units by parcel. */
export interface DeclaredPart {
  quantity: number;
  eachMinor: number | null;
  byParcel: readonly number[];
}

/**
 * What the pieces of a line are worth to customs, by piece and parcel, in the minor units of the line: what was paid for the line's goods,
 * spread over its pieces by their own values and then over the parcels by units, so that all of it adds up exactly. A piece that was given
 * away is declared at its own value, because it has one. Without a value of each piece, units count alike.
 * Example: a set for 1000 of two pieces worth 600 and 200 is 750 and 250.
 */
export function declaredValues(goodsMinor: number, parts: readonly DeclaredPart[]): number[][] {
  const known = parts.every(p => p.eachMinor !== null);
  const weights = parts.map(p => p.quantity * (known ? p.eachMinor! : 1));
  const own = parts.map(p => p.quantity * (p.eachMinor ?? 0));
  const whole = goodsMinor > 0 ? apportion(goodsMinor, weights) : own;
  return parts.map((p, i) => {
    const rest = p.quantity - p.byParcel.reduce((a, b) => a + b, 0);
    return apportion(whole[i]!, [...p.byParcel, Math.max(0, rest)]).slice(0, p.byParcel.length);
  });
}

/** A row of a declaration. Weights are net milligrams of all its units; the code is harmonised, the origin ISO 3166-1 alpha-2. */
export interface CustomsRow {
  productId: string;
  words: string;
  quantity: number;
  netMg: number;
  valueMinor: number;
  code: string;
  origin: string;
}

/** Rows of one product become one; the dearest stands first, ties by words. */
export function customsRows(rows: readonly CustomsRow[]): CustomsRow[] {
  const by = new Map<string, CustomsRow>();
  for (const r of rows) {
    const known = by.get(r.productId);
    by.set(
      r.productId,
      known
        ? {
            ...known,
            quantity: known.quantity + r.quantity,
            netMg: known.netMg + r.netMg,
            valueMinor: known.valueMinor + r.valueMinor,
          }
        : r,
    );
  }
  return [...by.values()].sort((a, b) => b.valueMinor - a.valueMinor || a.words.localeCompare(b.words));
}

/** What customs, and the carrier of dangerous goods, will ask of a product; each is a fact of it with the words of the screen. */
export interface CustomsFacts {
  customsCode: string | null;
  origin: string | null;
  weightMg: number | null;
  hazardous: boolean;
  unNumber: string | null;
  hazardClass: string | null;
  hazardName: string | null;
}

/** Which of them are missing, in words; empty when a declaration can be written. Hazardous goods want their number, class and proper name too. */
export function missingForCustoms(f: CustomsFacts): string[] {
  const wanted: [missing: boolean, words: string][] = [
    [!f.customsCode, 'customs code'],
    [!f.origin, 'country of origin'],
    [!f.weightMg, 'weight'],
    [f.hazardous && !f.unNumber, 'UN number'],
    [f.hazardous && !f.hazardClass, 'hazard class'],
    [f.hazardous && !f.hazardName, 'proper shipping name'],
  ];
  return wanted.filter(([missing]) => missing).map(([, words]) => words);
}
