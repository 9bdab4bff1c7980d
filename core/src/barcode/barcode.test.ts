import fc from 'fast-check';
import { expect, test } from 'vitest';
import { gs1Day, parseGs1 } from './gs1.js';
import { canonicalGtin, expandUpcE, gs1CheckDigit, hasGs1CheckDigit } from './gtin.js';
import { canonicalCode, LONGEST_SCAN, parseScan } from './parseScan.js';
import { isS10, makeS10, s10CheckDigit } from './s10.js';

const GS = '\u001d';
const parsed = (text: string) => {
  const p = parseScan(text, 2026);
  return p.ok ? p.value : p.problem;
};

test('known GS1 check digits', () => {
  expect(hasGs1CheckDigit('6291041500213')).toBe(true);
  expect(hasGs1CheckDigit('09506000134352')).toBe(true);
  expect(hasGs1CheckDigit('106141412345678908')).toBe(true);
  expect(hasGs1CheckDigit('6291041500214')).toBe(false);
});

test('a single wrong digit is always found', () => {
  const digits = fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 7, maxLength: 17 });
  fc.assert(
    fc.property(digits, fc.nat(), fc.integer({ min: 1, max: 9 }), (body, at, by) => {
      const code = body.join('') + gs1CheckDigit(body.join(''));
      const i = at % code.length;
      const wrong = code.slice(0, i) + ((Number(code[i]) + by) % 10) + code.slice(i + 1);
      return hasGs1CheckDigit(code) && !hasGs1CheckDigit(wrong);
    }),
  );
});

test('UPC-E expands, and all forms of one GTIN are one', () => {
  expect(expandUpcE('01234565')).toBe('012345000065');
  expect(canonicalGtin('01234565')).toBe('00012345000065');
  expect(canonicalGtin('012345000065')).toBe(canonicalGtin('0012345000065'));
  expect(canonicalGtin('12345')).toBeNull();
});

test('postal numbers have their check digit', () => {
  expect(s10CheckDigit('47312482')).toBe(9);
  expect(isS10('RA473124829FI')).toBe(true);
  expect(isS10('RA473124828FI')).toBe(false);
  fc.assert(fc.property(fc.integer({ min: 0, max: 99_999_999 }), n => isS10(makeS10('HP', n, 'US'))));
});

test('GS1 element strings, with prefix, separators and brackets', () => {
  const all = { ok: true, value: { gtin: '09506000134352', lot: 'AB-1', expiry: '2027-02-28' } };
  expect(parseGs1(`]C1010950600013435210AB-1${GS}17270200`, 2026)).toEqual(all);
  expect(parseGs1('(01)09506000134352(10)AB-1(17)270200', 2026)).toEqual(all);
  const more = parseGs1('(00)106141412345678908(37)24(3102)000345(3201)000012(400)PO-7(420)43701', 2026);
  expect(more).toEqual({
    ok: true,
    value: {
      sscc: '106141412345678908',
      count: 24,
      weightMg: 544_311,
      order: 'PO-7',
      shipToPostcode: '43701',
    },
  });
});

test('what breaks the rules of GS1 is refused with its why', () => {
  const why = (text: string) => {
    const read = parseGs1(text, 2026);
    return read.ok ? 'read' : read.problem;
  };
  expect(why('(01)09506000134353')).toMatch(/check digit/);
  expect(why('0109506000134352991234')).toMatch(/does not know/);
  expect(why(`10${'x'.repeat(21)}`)).toBe('Its lot has 21 characters; the standard has at most 20.');
  expect(why('(01)09506000134352(17)270231')).toMatch(/no day of the calendar/);
  expect(why('(37)12a')).toMatch(/digits only/);
  expect(why('(10)')).toMatch(/empty/);
  expect(why('(10)Ä')).toMatch(/character/);
  const scan = parseScan('(01)09506000134352(17)271301', 2026);
  expect(scan.ok).toBe(false);
  expect(!scan.ok && scan.problem).toMatch(/271301 is no day of the calendar/);
});

test('a separator that is missing is not guessed: the code is refused', () => {
  const why = (text: string) => {
    const got = parseScan(text, 2026);
    return got.ok ? got.value : got.problem;
  };
  const GS = '\u001d';
  expect(why(`]C10109506000134352${'10'}AB-1${GS}17271231`)).toMatchObject({
    lot: 'AB-1',
    expiry: '2027-12-31',
  });
  expect(why(']C1010950600013435210AB-117271231')).toMatch(/lot and its expiry day run together/);
  expect(why('(01)09506000134352(10)AB-117271231')).toMatchObject({ lot: 'AB-117271231' });
  expect(why(']C1010950600013435210AB-117279931')).toMatchObject({ lot: 'AB-117279931' });
  expect(why(`]C1010950600013435210${'A'.repeat(21)}`)).toMatch(/at most 20/);
});

test('symbology identifiers are read past, of GS1 symbols and of all others', () => {
  for (const text of [']E06291041500213', '6291041500213', ']C06291041500213', ']J10106291041500213'])
    expect(parsed(text)).toMatchObject({ type: 'product', code: '06291041500213' });
  expect(parsed(']C0OR-1042')).toEqual({ type: 'own', kind: 'order', code: 'OR-1042' });
  expect(parsed(']Q0')).toEqual({ type: 'text', text: ']Q0' });
});

test('GS1 Digital Link addresses say what an element string says', () => {
  const link = 'https://id.example/some/way/01/09506000134352/10/AB%2F1/21/77?17=271231&30=6&from=shelf';
  expect(parsed(link)).toEqual({
    type: 'product',
    code: '09506000134352',
    lot: 'AB/1',
    serial: '77',
    expiry: '2027-12-31',
    count: 6,
  });
  expect(parsed('http://x.example/gtin/6291041500213')).toEqual({ type: 'product', code: '06291041500213' });
  expect(canonicalCode('https://x.example/01/06291041500213/22/B')).toBe('06291041500213');
  expect(canonicalCode('(01)06291041500213(10)X')).toBe('06291041500213');
  for (const [bad, words] of [
    ['https://x.example/01/09506000134353', /check digit/],
    ['https://x.example/01/09506000134352/10/%ff', /cannot be read/],
    ['https://x.example/01/09506000134352?17=271301', /no day of the calendar/],
    ['https://x.example/01/09506000134352/99/x', /does not know/],
  ] as const) {
    const got = parseScan(bad, 2026);
    expect(got.ok ? 'read' : got.problem).toMatch(words);
  }
  expect(parsed('https://x.example/about')).toMatchObject({ type: 'text' });
});

test('GS1 days: window of years, month end, impossible days', () => {
  expect(gs1Day('270200', 2026)).toBe('2027-02-28');
  expect(gs1Day('280200', 2026)).toBe('2028-02-29');
  expect(gs1Day('990101', 2026)).toBe('1999-01-01');
  expect(gs1Day('760101', 2026)).toBe('2076-01-01');
  expect(gs1Day('270230', 2026)).toBeNull();
  expect(gs1Day('271300', 2026)).toBeNull();
});

test('scans become typed things', () => {
  expect(parsed('or-1042')).toEqual({ type: 'own', kind: 'order', code: 'OR-1042' });
  expect(parsed('B-07-2')).toEqual({ type: 'text', text: 'B-07-2' });
  expect(parsed('AUK-UNDO')).toEqual({ type: 'command', name: 'UNDO' });
  expect(parsed('AUK-NOTHING')).toEqual({ type: 'text', text: 'AUK-NOTHING' });
  expect(parsed('6291041500213')).toEqual({ type: 'product', code: '06291041500213' });
  expect(parsed('12')).toEqual({ type: 'quantity', n: 12 });
  expect(parsed('4.2 lb')).toMatchObject({ type: 'weight', mg: 1_905_088 });
  expect(parsed('HVB-DP-F')).toEqual({ type: 'text', text: 'HVB-DP-F' });
});

test('noise is refused in words', () => {
  expect(parsed('')).toContain('Nothing was read');
  expect(parsed('x'.repeat(10_000))).toContain('10000 characters');
  expect(parsed('ab\u0007cd')).toContain('control characters');
  expect(LONGEST_SCAN).toBe(200);
});

test('parsing never throws, and canonical codes stay as they are', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 260 }), text => {
      parseScan(text, 2026);
      return canonicalCode(canonicalCode(text)) === canonicalCode(text);
    }),
  );
});
