import { fail, ok, type Result } from '../result.js';
import { isControl } from '../text.js';
import { parseWeight } from '../units/units.js';
import { type Gs1Elements, looksLikeGs1, looksLikeLink, parseGs1, parseLink } from './gs1.js';
import { canonicalGtin } from './gtin.js';

/** Separates variable fields of GS1 strings. */
const GS = '\u001d';

/** Kinds of Auk's own codes, by the two letters before the dash. */
export const OWN_PREFIX = {
  OR: 'order',
  PL: 'list',
  PA: 'parcel',
  TO: 'tote',
  TR: 'trolley',
  CE: 'cell',
  BX: 'box',
  BE: 'bench',
  DE: 'departure',
  AB: 'badge',
  PO: 'purchase',
  BU: 'build',
  IN: 'inbound',
  RB: 'button',
} as const;
export type OwnKind = (typeof OWN_PREFIX)[keyof typeof OWN_PREFIX];

/** Commands of the scan sheet; printed as `AUK-UNDO` and so on. */
export const COMMANDS = [
  'UNDO',
  'ALL',
  'SHORT',
  'SKIP',
  'LABEL',
  'CLOSE',
  'LEAVE',
  'ASIDE',
  'YES',
  'NEXT',
  'NEXTBOX',
  'WITHOUT',
  'PHOTO',
  'WEIGH',
  'REOPEN',
  'CHANGE',
  'VOID',
  'SPOILED',
] as const;
export type Command = (typeof COMMANDS)[number];

/** What a scanned or typed text is. `product` covers every code a product may carry: a GTIN in its 14-digit form, or other text. */
export type Parsed =
  | { type: 'product'; code: string; lot?: string; expiry?: string; serial?: string; count?: number }
  | { type: 'own'; kind: OwnKind; code: string }
  | { type: 'command'; name: Command }
  | { type: 'weight'; mg: number; typed: string }
  | { type: 'quantity'; n: number }
  | { type: 'text'; text: string };

/** A symbology identifier (ISO/IEC 15424), which some scanners send before what they read. */
const SYMBOLOGY = /^\][A-Za-z][0-9A-Za-z](?=.)/;

/** Longest text a scan may have; a symbol holds less, so more is noise. */
export const LONGEST_SCAN = 200;

/**
 * Turns the text of a scan into a typed thing. Fails with a sentence on empty, over-long and control-character input.
 * `year` decides the century of GS1 dates. Example: `parseScan('or-1042', 2026)` is an own code of kind order.
 */
export function parseScan(raw: string, year: number): Result<Parsed, string> {
  const said = raw.trim();
  const text = looksLikeGs1(said) ? said : said.replace(SYMBOLOGY, '');
  if (text === '') return fail('Nothing was read. Scan again.');
  if (text.length > LONGEST_SCAN)
    return fail(
      `That scan has ${text.length} characters; no code here has more than ${LONGEST_SCAN}. Scan again.`,
    );
  if ([...text].some(c => isControl(c) && c !== GS))
    return fail(
      'That scan holds control characters; the scanner may be set wrongly. Scan again or type the code.',
    );
  if (looksLikeGs1(text) || looksLikeLink(text)) {
    const elements = looksLikeLink(text) ? parseLink(text, year) : parseGs1(text, year);
    if (!elements.ok)
      return fail(
        `That code breaks the rules of its kind: ${elements.problem} Scan another code of the thing.`,
      );
    if (elements.value.gtin) return ok(productOf(elements.value, elements.value.gtin));
  }
  return ok(classify(text, year));
}

function productOf({ lot, expiry, serial, count }: Gs1Elements, gtin: string): Parsed {
  return {
    type: 'product',
    code: gtin,
    ...(lot && { lot }),
    ...(expiry && { expiry }),
    ...(serial && { serial }),
    ...(count && { count }),
  };
}

function classify(text: string, year: number): Parsed {
  const upper = text.toUpperCase();
  const own = /^([A-Z]{2})-([A-Z0-9]{1,12})$/.exec(upper);
  const kind = own ? OWN_PREFIX[own[1] as keyof typeof OWN_PREFIX] : undefined;
  if (kind) return { type: 'own', kind, code: upper };
  const command = /^AUK-([A-Z]+)$/.exec(upper)?.[1] as Command | undefined;
  if (command && COMMANDS.includes(command)) return { type: 'command', name: command };
  const gtin = canonicalGtin(text);
  if (gtin) return { type: 'product', code: gtin };
  if (/^\d{1,4}$/.test(text)) return { type: 'quantity', n: Number(text) };
  const elements = /^\d{16}/.test(text) ? parseGs1(text, year) : null;
  if (elements?.ok && elements.value.gtin) return productOf(elements.value, elements.value.gtin);
  const weight = /\d\s*(kg|g|lbs?|oz)$/i.test(text) ? parseWeight(text) : null;
  if (weight?.ok) return { type: 'weight', mg: weight.value, typed: text };
  return { type: 'text', text };
}

/** The year of dates where only the code of the thing is wanted. */
const ANY_YEAR = 2000;

/**
 * The form in which a code is stored and compared: the GTIN as 14 digits, also out of a GS1 element string or a GS1 Digital Link; all
 * else in capitals.
 */
export function canonicalCode(text: string): string {
  const parsed = parseScan(text, ANY_YEAR);
  return parsed.ok && parsed.value.type === 'product' ? parsed.value.code : text.trim().toUpperCase();
}

/** True when a text can be printed as Code 128 and scanned again: 1 to 60 characters of ASCII 32 to 126. */
export const fitsCode128 = (text: string): boolean => /^[\x20-\x7e]{1,60}$/.test(text);
