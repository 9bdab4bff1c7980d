import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  type DuplicateFacts,
  duplicateKeys,
  SUSPECT_FROM,
  suspectDuplicate,
  togetherKey,
} from './duplicate.js';

const facts = (more: Partial<DuplicateFacts> = {}): DuplicateFacts => ({
  mail: 'ruth@mail.example',
  name: 'Ruth Penrose',
  street: '1 Alder Lane',
  postcode: '83702',
  lines: [
    { key: 'jar', quantity: 12 },
    { key: 'lid', quantity: 1 },
  ],
  placedAt: Date.parse('2026-11-23T10:00:00Z'),
  ...more,
});
const later = (hours: number) => facts().placedAt + hours * 3_600_000;

test('the same purchase twice within the hour is suspected, with its reasons', () => {
  const twice = suspectDuplicate(
    facts(),
    facts({ placedAt: later(0.5), lines: [...facts().lines].reverse() }),
  );
  expect(twice).toEqual({
    score: 1,
    why: ['the same things', 'the same buyer', 'the same address', 'within an hour'],
  });
});

test('other things, or the same things three days later, are orders of their own', () => {
  expect(suspectDuplicate(facts(), facts({ lines: [{ key: 'jar', quantity: 11 }] })).score).toBeLessThan(
    SUSPECT_FROM,
  );
  expect(suspectDuplicate(facts(), facts({ placedAt: later(80) })).score).toBeLessThan(SUSPECT_FROM);
  expect(
    suspectDuplicate(
      facts(),
      facts({ mail: 'x@mail.example', name: 'Per Aldous', street: '2 Ferry Street', postcode: '1' }),
    ).score,
  ).toBeLessThan(SUSPECT_FROM);
});

test('suspicion is symmetric, and whoever is suspected meets under a key', () => {
  const some = fc.record({
    mail: fc.constantFrom('', 'a@mail.example', 'b@mail.example'),
    name: fc.constantFrom('Ruth', 'ruth ', 'Per'),
    street: fc.constantFrom('1 Road', '2 Road'),
    postcode: fc.constantFrom('83702', '43701'),
    lines: fc.array(fc.record({ key: fc.constantFrom('x', 'y'), quantity: fc.integer({ min: 1, max: 2 }) }), {
      maxLength: 3,
    }),
    placedAt: fc.integer({ min: 0, max: 400_000_000 }),
  });
  fc.assert(
    fc.property(some, some, (a, b) => {
      expect(suspectDuplicate(a, b)).toEqual(suspectDuplicate(b, a));
      const meet = duplicateKeys(a).some(k => duplicateKeys(b).includes(k));
      if (suspectDuplicate(a, b).score >= SUSPECT_FROM) expect(meet).toBe(true);
    }),
  );
});

test('orders may travel together only to one buyer at one address', () => {
  const a = {
    mail: 'R@mail.example',
    name: 'Ruth P.',
    street: '1 Alder Lane',
    street2: '',
    postcode: '83702',
    country: 'US',
  };
  expect(togetherKey(a)).toBe(togetherKey({ ...a, mail: 'r@mail.example', street: '1 alder lane.' }));
  expect(togetherKey(a)).not.toBe(togetherKey({ ...a, street2: 'Flat 2' }));
});
