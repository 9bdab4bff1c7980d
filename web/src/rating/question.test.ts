import { parseAmount } from '@auk/core';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { optionsOf, quoteOf, typed } from './question.js';

const asked = (text: string) => new URLSearchParams(text);

test('what is asked beside carrying is read from the address, and nothing else', () => {
  expect(optionsOf(asked(''), 'USD')).toEqual({});
  expect(optionsOf(asked('signature=yes&saturday=yes&over=counter&to=point'), 'USD')).toEqual({
    signature: true,
    saturday: true,
    dropOff: true,
    toPoint: true,
  });
  expect(optionsOf(asked('signature=no&over=door&to=home'), 'USD')).toEqual({});
});

test('worth and cash are amounts; insured goes before a worth, and what is no amount is left out', () => {
  expect(optionsOf(asked('value=12.50&cash=3'), 'USD')).toEqual({ valueMinor: 1_250, cashMinor: 300 });
  expect(optionsOf(asked('value=500'), 'JPY')).toEqual({ valueMinor: 500 });
  expect(optionsOf(asked('insured=yes&value=12.50'), 'USD')).toEqual({ insured: true });
  expect(optionsOf(asked('value=much&cash=-3'), 'USD')).toEqual({});
});

test('a quote wants a postcode, a weight and a size, and says which of them it lacks', () => {
  const whole = 'postcode=83702&weight=2 lb&size=10x8x6 in';
  expect(quoteOf(asked(whole))).toMatchObject({
    ok: true,
    about: { kind: 'quote', postcode: '83702', country: 'US', residential: true, weightMg: 907_185 },
  });
  expect(quoteOf(asked(`${whole}&home=no`))).toMatchObject({ about: { residential: false } });
  expect(quoteOf(asked(`${whole}&country=nl`))).toMatchObject({ ok: true, about: { country: 'NL' } });
  const lacks = (text: string) => {
    const read = quoteOf(asked(text));
    return read.ok ? null : read.problem;
  };
  expect(lacks(whole.replace('83702', '8370'))).toBe('A postcode has five digits.');
  expect(lacks(`${whole}&country=USA`)).toBe('A country is written with two letters.');
  expect(lacks(whole.replace('2 lb', ''))).toMatch(/weight/i);
  expect(lacks(whole.replace('10x8x6 in', '10'))).not.toBeNull();
  // Elsewhere a postcode may be anything, or none.
  expect(lacks('country=IE&postcode=&weight=1 kg&size=10x8x6 cm')).toBeNull();
});

test('an amount that is shown is read as the same again', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 9_999_999 }),
      fc.constantFrom('USD', 'EUR', 'JPY', 'KWD'),
      (minor, currency) => {
        const read = parseAmount(typed(minor, currency), currency);
        expect(read).toMatchObject({ ok: true, value: minor });
      },
    ),
  );
});
