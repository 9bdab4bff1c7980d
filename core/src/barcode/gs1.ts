import { fail, ok, type Result } from '../result.js';
import { hasGs1CheckDigit } from './gtin.js';

/** What a GS1 element string says, application identifier by identifier (only those Auk uses). Dates are ISO days, weights milligrams. */
export interface Gs1Elements {
  sscc?: string;
  gtin?: string;
  lot?: string;
  serial?: string;
  variant?: string;
  made?: string;
  best?: string;
  expiry?: string;
  count?: number;
  weightMg?: number;
  order?: string;
  shipToGln?: string;
  glnOfPlace?: string;
  shipToPostcode?: string;
}

type Kind = 'code' | 'text' | 'day' | 'count' | 'kilograms' | 'pounds';
interface FieldSpec {
  name: keyof Gs1Elements;
  words: string;
  kind: Kind;
  length: number;
  fixed: boolean;
}

const GS = '\u001d';
const fixed = (name: keyof Gs1Elements, words: string, kind: Kind, length: number): FieldSpec => ({
  name,
  words,
  kind,
  length,
  fixed: true,
});
const upTo = (name: keyof Gs1Elements, words: string, kind: Kind, length: number): FieldSpec => ({
  name,
  words,
  kind,
  length,
  fixed: false,
});
/** Application identifiers with their lengths. GS1 General Specifications (from memory); 310n and 320n have their decimals in n. */
const FIELDS: Record<string, FieldSpec> = {
  '00': fixed('sscc', 'shipping unit', 'code', 18),
  '01': fixed('gtin', 'product', 'code', 14),
  '02': fixed('gtin', 'product inside', 'code', 14),
  '10': upTo('lot', 'lot', 'text', 20),
  '11': fixed('made', 'day it was made', 'day', 6),
  '15': fixed('best', 'best-before day', 'day', 6),
  '17': fixed('expiry', 'expiry day', 'day', 6),
  '21': upTo('serial', 'serial number', 'text', 20),
  '22': upTo('variant', 'variant', 'text', 20),
  '30': upTo('count', 'count', 'count', 8),
  '37': upTo('count', 'count', 'count', 8),
  '310': fixed('weightMg', 'weight', 'kilograms', 6),
  '320': fixed('weightMg', 'weight', 'pounds', 6),
  '400': upTo('order', 'order number', 'text', 30),
  '410': fixed('shipToGln', 'location it goes to', 'code', 13),
  '414': fixed('glnOfPlace', 'location', 'code', 13),
  '420': upTo('shipToPostcode', 'postcode it goes to', 'text', 20),
};
/** Digits of identifiers whose fourth digit tells the decimals. */
const WEIGHTS = /^(310|320)([0-9])/;
/** The 82 characters that texts in element strings may have (ISO/IEC 646 subset of the General Specifications, from memory). */
const CHARACTERS = /^[!"%&'()*+,\-./0-9:;<=>?A-Z_a-z]*$/;
const MG_PER_UNIT = { kilograms: 1_000_000, pounds: 453_592.37 };

/** Symbology identifiers (ISO/IEC 15424) of symbols that hold GS1 element strings. */
const GS1_SYMBOLS = /^\](C1|d2|Q3|e0|J1)/;

/** True when a text says by itself that it is a GS1 element string: a symbology identifier, a leading separator, or brackets. */
export const looksLikeGs1 = (text: string): boolean =>
  GS1_SYMBOLS.test(text) || text.startsWith(GS) || /^\(\d{2,4}\)/.test(text);

/**
 * Reads a GS1 element string as a scanner sends it (symbology prefix and a leading GS are accepted, variable fields end with GS)
 * or with brackets as they are printed. Fails with a sentence naming the first part that is not understood, so that nothing is half
 * read; a text that ends as a date does is refused, because nobody can tell it from a text and a date without the separator between.
 * `year` decides the century of dates. Example: `(01)09506000134352(10)AB-1` gives its gtin and the lot AB-1.
 */
export function parseGs1(text: string, year: number): Result<Gs1Elements, string> {
  let rest = text.replace(GS1_SYMBOLS, '').replace(new RegExp(`^${GS}`), '');
  if (/^\(\d{2,4}\)/.test(rest)) rest = bracketsToSeparators(rest);
  if (rest === '') return fail('The code is empty after its prefix.');
  const found: Gs1Elements = {};
  while (rest !== '') {
    const ai = identifierOf(rest);
    if (!ai) return fail(`It has a part "${rest.slice(0, 4)}…" that Auk does not know.`);
    const { spec, length, decimals } = ai;
    const stop = rest.indexOf(GS);
    const end = spec.fixed ? length + spec.length : stop === -1 ? rest.length : stop;
    const value = rest.slice(length, end);
    const problem =
      take(found, spec, value, decimals, year) ??
      (spec.kind === 'text' && stop === -1 ? runsTogether(spec, value, year) : null);
    if (problem) return fail(problem);
    rest = rest.slice(end).replace(new RegExp(`^${GS}`), '');
  }
  return ok(found);
}

/** Why a text that nothing ends is doubtful: its end reads as a date of its own. */
function runsTogether(spec: FieldSpec, value: string, year: number): string | null {
  const date = /.(11|15|17)(\d{6})$/.exec(value);
  if (!date || !gs1Day(date[2]!, year)) return null;
  return `Its ${spec.words} and its ${FIELDS[date[1]!]!.words} run together: the separator between them is missing.`;
}

function identifierOf(rest: string): { spec: FieldSpec; length: number; decimals: number } | null {
  const weight = WEIGHTS.exec(rest);
  if (weight) return { spec: FIELDS[weight[1]!]!, length: 4, decimals: Number(weight[2]) };
  for (const length of [2, 3]) {
    const spec = FIELDS[rest.slice(0, length)];
    if (spec && spec.kind !== 'kilograms' && spec.kind !== 'pounds') return { spec, length, decimals: 0 };
  }
  return null;
}

function bracketsToSeparators(text: string): string {
  return [...text.matchAll(/\((\d{2,4})\)([^(]*)/g)]
    .map(m => `${m[1]}${m[2]}${identifierOf(m[1]!)?.spec.fixed ? '' : GS}`)
    .join('');
}

/** Puts one value into what was found; gives the sentence when it breaks the standard. */
function take(
  found: Gs1Elements,
  spec: FieldSpec,
  value: string,
  decimals: number,
  year: number,
): string | null {
  const { name, words, kind } = spec;
  if (value === '') return `Its ${words} is empty.`;
  if (value.length > spec.length || (spec.fixed && value.length !== spec.length))
    return `Its ${words} has ${value.length} characters; the standard has ${spec.fixed ? '' : 'at most '}${spec.length}.`;
  if (kind === 'text') {
    if (!CHARACTERS.test(value)) return `Its ${words} holds a character that the standard does not have.`;
    Object.assign(found, { [name]: value });
    return null;
  }
  if (!/^\d+$/.test(value)) return `Its ${words} must be digits only.`;
  if (kind === 'code' && !hasGs1CheckDigit(value)) return `The check digit of its ${words} is wrong.`;
  if (kind === 'code') Object.assign(found, { [name]: value });
  else if (kind === 'count') found.count = Number(value);
  else if (kind === 'day') {
    const day = gs1Day(value, year);
    if (!day) return `Its ${words} ${value} is no day of the calendar.`;
    Object.assign(found, { [name]: day });
  } else found.weightMg = Math.round((Number(value) / 10 ** decimals) * MG_PER_UNIT[kind]);
  return null;
}

/** ISO day of a six-digit YYMMDD; day 00 is the month's last; the century is the one that puts the year within 49 back and 50 ahead of `year`. Null when there is no such day. */
export function gs1Day(digits: string, year: number): string | null {
  const m = /^(\d{2})(\d{2})(\d{2})$/.exec(digits);
  if (!m) return null;
  const century = Math.floor(year / 100) * 100;
  let full = century + Number(m[1]);
  if (full - year >= 51) full -= 100;
  else if (full - year <= -50) full += 100;
  const month = Number(m[2]);
  if (month < 1 || month > 12) return null;
  const last = new Date(Date.UTC(full, month, 0)).getUTCDate();
  const day = Number(m[3]) === 0 ? last : Number(m[3]);
  return day > last ? null : `${full}-${m[2]}-${String(day).padStart(2, '0')}`;
}

/** A web address that identifies a thing by a GTIN in its path. */
const LINK =
  /^https?:\/\/[^/?#\s]+(?:\/[^?#\s]*?)?\/(?:01|gtin)\/(\d{8,14})((?:\/[^/?#\s]+\/[^/?#\s]+)*)\/?(?:\?([^#\s]*))?(?:#.*)?$/i;

/** True when a text is a web address as GS1 Digital Link has them. */
export const looksLikeLink = (text: string): boolean => LINK.test(text);

/**
 * Reads a GS1 Digital Link address: the GTIN (of 8 to 14 digits) and lot or serial in the path, dates, counts and weights behind the
 * question mark, each value with percent-encoding. What else stands behind the question mark is left out, as the standard says.
 * GS1 Digital Link Standard: URI Syntax (from memory). Example: `https://x.example/01/09506000134352/10/AB-1?17=261231`.
 */
export function parseLink(text: string, year: number): Result<Gs1Elements, string> {
  const m = LINK.exec(text);
  if (!m) return fail('It is no GS1 Digital Link.');
  const found: Gs1Elements = {};
  const parts = m[2]!.split('/').slice(1);
  const pairs: [string, string][] = [['01', m[1]!.padStart(14, '0')]];
  for (let i = 0; i < parts.length; i += 2) pairs.push([parts[i]!, parts[i + 1]!]);
  for (const part of (m[3] ?? '').split('&')) {
    const [key = '', value = ''] = part.split('=');
    if (identifierOf(key)?.length === key.length) pairs.push([key, value]);
  }
  for (const [key, raw] of pairs) {
    const ai = identifierOf(key);
    const value = decoded(raw);
    if (value === null) return fail(`Its part "${raw.slice(0, 12)}" cannot be read.`);
    if (ai?.length !== key.length) return fail(`It has a part "${key.slice(0, 4)}" that Auk does not know.`);
    const problem = take(found, ai.spec, value, ai.decimals, year);
    if (problem) return fail(problem);
  }
  return ok(found);
}

function decoded(text: string): string | null {
  try {
    return decodeURIComponent(text);
  } catch {
    return null;
  }
}
