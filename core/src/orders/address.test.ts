import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  type Address,
  addressLines,
  checkAddress,
  countryName,
  emptyAddress,
  isLatin,
  isLatinAddress,
  LABEL_LINE,
  labelLines,
} from './address.js';

const tables = {
  isCountry: (c: string) => ['US', 'NL', 'CA'].includes(c),
  isPostcode: (p: string) => /^\w{4,8}$/.test(p),
};
const good: Address = {
  ...emptyAddress('US'),
  name: 'Ruth',
  line1: '1 Road',
  city: 'Boise',
  region: 'ID',
  postcode: '83702',
};
const codes = (more: Partial<Address>, home = 'US') =>
  checkAddress({ ...good, ...more }, home, tables).map(r => `${r.code} ${r.subject}`);

test('a whole address at home has no reason', () => {
  expect(codes({})).toEqual([]);
});

test('an unknown country is the only reason: nothing else can be judged', () => {
  expect(codes({ country: 'ZZ', name: '', postcode: '' })).toEqual(['bad-country country']);
});

test('regions are wanted where addresses have them', () => {
  expect(codes({ region: '' })).toEqual(['incomplete-address region']);
  expect(codes({ region: '', country: 'NL', phone: '1' })).toEqual([]);
});

test('a telephone is wanted abroad, seen from where the house is', () => {
  expect(codes({ country: 'CA' })).toEqual(['no-phone phone']);
  expect(codes({ country: 'CA' }, 'CA')).toEqual([]);
});

test('the town, region and postcode are one line of a label', () => {
  expect(labelLines({ ...good, company: 'Apiary' }).map(l => l.text)).toEqual([
    'Ruth',
    'Apiary',
    '1 Road',
    'Boise ID 83702',
  ]);
  expect(codes({ city: 'x'.repeat(LABEL_LINE - 8) })).toEqual(['long-address city']);
  expect(codes({ city: 'x'.repeat(LABEL_LINE - 9) })).toEqual([]);
});

test('every reason names its field, its sentence and its cure, each code and field once', () => {
  const text = fc.string({ maxLength: 60 });
  const address = fc.record({
    name: text,
    company: text,
    line1: text,
    line2: text,
    city: text,
    region: text,
    postcode: text,
    phone: text,
    country: fc.constantFrom('US', 'NL', 'CA', 'XX', ''),
  });
  fc.assert(
    fc.property(address, a => {
      const reasons = checkAddress(a, 'US', tables);
      expect(new Set(reasons.map(r => `${r.code} ${r.subject}`)).size).toBe(reasons.length);
      for (const r of reasons)
        expect([r.says.length > 8, r.cure.length > 5, r.subject in a]).toEqual([true, true, true]);
    }),
  );
});

test('the country stands last on paper, by name, unless it is the one the paper is made in', () => {
  const to = { ...good, country: 'NL', postcode: '1011 AB', city: 'Amsterdam', region: '' };
  expect(addressLines(to).at(-1)).toBe('NETHERLANDS');
  expect(addressLines(to, 'NL').at(-1)).toContain('Amsterdam');
  expect(addressLines(to, 'US').at(-1)).toBe('NETHERLANDS');
  expect(countryName('CA')).toBe('Canada');
  expect(countryName('XY')).toBe('XY');
  expect(countryName('nowhere')).toBe('nowhere');
});

test('Latin letters have accents and stand beside any digits and signs; other scripts are none', () => {
  for (const text of ['Łódź 4/7', 'São Paulo', 'Đà Nẵng', '№ 5, “x”', ''])
    expect(isLatin(text), text).toBe(true);
  for (const text of ['Москва', '北京市', 'فاطمة', 'Αθήνα', 'Ivanов'])
    expect(isLatin(text), text).toBe(false);
  expect(isLatinAddress(good)).toBe(true);
  expect(isLatinAddress({ ...good, city: '서울' })).toBe(false);
});
