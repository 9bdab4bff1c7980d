import { describe, expect, test } from 'vitest';
import { checkCode, sameCode, scanForCode, unitLabelCode } from './codes.js';

const OWN = [
  { code: '2000000000114', units: 1 },
  { code: '12000000000111', units: 12 },
];

describe('the code that a center will scan', () => {
  test('is ours where it differs in leading zeros alone', () => {
    // A UPC of 12 digits, the same as EAN-13 and as GTIN-14.
    expect(sameCode('036000291452', '0036000291452')).toBe(true);
    expect(sameCode('036000291452', '00036000291452')).toBe(true);
    expect(sameCode('036000291452', '10036000291459')).toBe(false);
    expect(checkCode(OWN, '02000000000114')).toMatchObject({
      state: 'same',
      ours: '2000000000114',
      says: '',
    });
  });

  test('of a case is a number of its own, and said', () => {
    expect(checkCode(OWN, '12000000000111')).toMatchObject({
      state: 'case',
      says: 'They will scan the code of a case of 12.',
    });
  });

  test('that is another is stopped with both shown; one that nobody knows is said', () => {
    expect(checkCode(OWN, '2000000000183')).toEqual({
      state: 'other',
      ours: '2000000000114',
      theirs: '2000000000183',
      says: 'Ends in 114 against 183: two different things.',
    });
    expect(checkCode(OWN, null)).toMatchObject({ state: 'unknown', says: 'They know no code for it.' });
    expect(checkCode([], '2000000000183')).toMatchObject({
      state: 'other',
      says: 'Our records have no code for it.',
    });
  });
});

describe('a scan of the goods', () => {
  test('confirms only what the network knows, whatever our records say', () => {
    expect(scanForCode('2000000000114', OWN, '2000000000114')).toEqual({ confirmed: true, says: '' });
    expect(scanForCode('02000000000114', OWN, '2000000000114')).toEqual({ confirmed: true, says: '' });
    expect(scanForCode('2000000000183', OWN, '2000000000183')).toEqual({
      confirmed: true,
      says: 'Right. Our own records do not know that code yet.',
    });
    expect(scanForCode('2000000000114', OWN, '2000000000183')).toEqual({
      confirmed: false,
      says: 'It carries our code 2000000000114; they will scan 2000000000183. Ends in 114 against 183.',
    });
    expect(scanForCode('NOBODYS', OWN, '2000000000183').says).toContain('a code that nobody knows NOBODYS');
    expect(scanForCode('2000000000114', OWN, null).confirmed).toBe(false);
  });
});

test('a unit label carries what they will scan, else our own code, else the SKU', () => {
  expect(unitLabelCode(checkCode([], '02000000000183'), 'JAR')).toBe('2000000000183');
  expect(unitLabelCode(checkCode([{ code: '4006381333931', units: 1 }], null), 'JAR')).toBe('4006381333931');
  expect(unitLabelCode(null, 'JAR')).toBe('JAR');
});
