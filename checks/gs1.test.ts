import {
  type Gs1Elements,
  gs1CheckDigit,
  hasGs1CheckDigit,
  parseGs1,
  seeded,
  serialsOf,
  ssccOf,
} from '@auk/core';
import { validate as gs1IsValid } from 'gs1';
import parser from 'gs1-barcode-parser-mod';
import { expect, test } from 'vitest';

const GS = '\u001d';
const random = seeded(41);
const below = (n: number) => Math.floor(random() * n);
const digits = (n: number) => Array.from({ length: n }, () => below(10)).join('');
const text = (most: number) =>
  Array.from({ length: 1 + below(most) }, () => 'ABCDEFGHJKLMNPQRSTUVWXYZ0123456789-./'[below(37)]).join('');
const two = (n: number) => String(n).padStart(2, '0');
/** A day that exists, at the first or later, as YYMMDD. */
const day = () => `${two(20 + below(30))}${two(1 + below(12))}${two(1 + below(28))}`;

/** A random element string: its identifiers in random order, variable fields ended by GS, with the symbology prefix. */
function makeString(): { raw: string; values: Map<string, string> } {
  const gtin = digits(13);
  const kinds: [ai: string, value: string, fixed: boolean][] = [
    ['01', gtin + gs1CheckDigit(gtin), true],
    ['10', text(20), false],
    ['11', day(), true],
    ['15', day(), true],
    ['17', day(), true],
    ['21', text(20), false],
    ['30', String(1 + below(9999)), false],
    ['3102', digits(6), true],
    ['400', text(30), false],
    ['420', text(20), false],
  ];
  const chosen = kinds.filter(() => below(2) === 1);
  if (chosen.length === 0) chosen.push(kinds[0]!);
  chosen.sort(() => random() - 0.5);
  const raw = chosen
    .map(([ai, value, fixed], i) => ai + value + (fixed || i === chosen.length - 1 ? '' : GS))
    .join('');
  return { raw: `]C1${raw}`, values: new Map(chosen.map(([ai, value]) => [ai, value])) };
}

const FIELD: Record<string, keyof Gs1Elements> = {
  '01': 'gtin',
  '10': 'lot',
  '11': 'made',
  '15': 'best',
  '17': 'expiry',
  '21': 'serial',
  '30': 'count',
  '400': 'order',
  '420': 'shipToPostcode',
};

// Source: the registry library gs1-barcode-parser-mod 1.2.1, which shares no code with ours (it splits; it does not judge check digits).
test('element strings are split as an independent parser splits them, on 3,000 random strings', () => {
  for (let i = 0; i < 3_000; i++) {
    const { raw } = makeString();
    const ours = parseGs1(raw, 2026);
    expect(ours.ok, raw).toBe(true);
    if (!ours.ok) return;
    for (const { ai, data } of parser.parseBarcode(raw).parsedCodeItems) {
      if (ai.startsWith('310')) {
        expect(ours.value.weightMg, raw).toBe(Math.round(Number(data) * 1_000_000));
        continue;
      }
      const theirs =
        data instanceof Date
          ? `${data.getFullYear()}-${two(data.getMonth() + 1)}-${two(data.getDate())}`
          : String(data);
      expect(String(ours.value[FIELD[ai]!]), `${raw} ${ai}`).toBe(theirs);
    }
  }
});

// Source: GS1 General Specifications, examples from memory.
test('the published examples: bracketed strings, SSCC, day 00, and what is wrong with the rest', () => {
  expect(parseGs1('(01)09506000134352', 2026)).toEqual({ ok: true, value: { gtin: '09506000134352' } });
  expect(hasGs1CheckDigit('6291041500213')).toBe(true);
  expect(parseGs1('(00)106141412345678908', 2026)).toEqual({
    ok: true,
    value: { sscc: '106141412345678908' },
  });
  expect(parseGs1('(01)09506000134352(17)240200', 2026)).toMatchObject({ value: { expiry: '2024-02-29' } });
  for (const wrong of ['(00)106141412345678909', '(01)09506000134353', '(17)240230', `(10)${'L'.repeat(21)}`])
    expect(parseGs1(wrong, 2026).ok, wrong).toBe(false);
});

// Source: gs1 1.0.2 and gs1-barcode-parser-mod 1.2.1, which share no code with ours.
test('2,000 numbers of shipping units are right and read by two independent libraries', () => {
  for (let i = 0; i < 2_000; i++) {
    const prefix = digits(7 + (i % 4));
    const made = ssccOf(prefix, below(10 * serialsOf(prefix)));
    if (!made.ok) throw new Error(made.problem);
    expect(gs1IsValid(made.value), made.value).toBe(true);
    const [item, ...more] = parser.parseBarcode(`]C100${made.value}`).parsedCodeItems;
    expect(more).toEqual([]);
    expect(item).toMatchObject({ ai: '00', data: made.value });
  }
});
