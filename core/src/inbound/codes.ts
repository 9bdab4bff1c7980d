import { canonicalCode } from '../barcode/parseScan.js';

/** A code of a product in our own records, and how many units it counts: more than one is the code of a case. */
export interface OwnCode {
  code: string;
  units: number;
}

/** The code that a network will scan beside our own records. `case`: it is the code of one of our cases, which is a number of its own. */
export interface CodeCheck {
  state: 'same' | 'case' | 'other' | 'unknown';
  /** Our code that is meant, as it is written here; null where there is none. */
  ours: string | null;
  theirs: string | null;
  says: string;
}

/** True for two writings of one number: UPC, EAN and GTIN differ in leading zeros alone. */
export const sameCode = (a: string, b: string): boolean => canonicalCode(a) === canonicalCode(b);

/** Puts the code that a network will scan for a product beside our own. Null for `theirs`: it knows none. */
export function checkCode(own: readonly OwnCode[], theirs: string | null): CodeCheck {
  const single = own.find(o => o.units === 1) ?? null;
  const ours = single?.code ?? null;
  if (theirs === null) return { state: 'unknown', ours, theirs, says: 'They know no code for it.' };
  const same = own.find(o => sameCode(o.code, theirs));
  if (same?.units === 1) return { state: 'same', ours: same.code, theirs, says: '' };
  if (same)
    return {
      state: 'case',
      ours: same.code,
      theirs,
      says: `They will scan the code of a case of ${same.units}.`,
    };
  if (ours === null) return { state: 'other', ours, theirs, says: 'Our records have no code for it.' };
  return { state: 'other', ours, theirs, says: `${endings(ours, theirs)}: two different things.` };
}

/** The code that the label of a unit carries: what they will scan, else our own, else the SKU; a GTIN of 14 digits without its leading zero. */
export const unitLabelCode = (code: CodeCheck | null, sku: string): string =>
  (code?.theirs ?? code?.ours ?? sku).replace(/^0(?=\d{13}$)/, '');

/** What came of a scan of the goods themselves. */
export interface CodeScanned {
  confirmed: boolean;
  says: string;
}

/**
 * A piece was scanned to prove what a center will scan: only the code that the network knows confirms it, whatever our records say. Shown
 * with both where they differ.
 */
export function scanForCode(scanned: string, own: readonly OwnCode[], theirs: string | null): CodeScanned {
  if (theirs === null)
    return {
      confirmed: false,
      says: 'They know no code for it, so nothing can be compared with what you scanned.',
    };
  if (sameCode(scanned, theirs)) {
    const known = own.some(o => sameCode(o.code, scanned));
    return { confirmed: true, says: known ? '' : 'Right. Our own records do not know that code yet.' };
  }
  const ours = own.find(o => sameCode(o.code, scanned));
  const what = ours ? 'It carries our code' : 'It carries a code that nobody knows';
  return {
    confirmed: false,
    says: `${what} ${scanned}; they will scan ${theirs}. ${endings(scanned, theirs)}.`,
  };
}

/** Where two codes part, said by their ends; digits that both begin with are left out. Example: "Ends in 114 against 183". */
function endings(a: string, b: string): string {
  const [x, y] = [canonicalCode(a), canonicalCode(b)];
  let same = 0;
  while (same < Math.min(x.length, y.length) && x[same] === y[same]) same++;
  const from = Math.max(0, Math.min(same, Math.max(x.length, y.length) - 3));
  return `Ends in ${x.slice(from) || 'nothing'} against ${y.slice(from) || 'nothing'}`;
}
