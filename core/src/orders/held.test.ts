import { expect, test } from 'vitest';
import { type HeldFacts, whyHeld } from './held.js';

const free: HeldFacts = {
  number: 'WS-1',
  cancelled: false,
  parked: false,
  parkedReason: '',
  payment: 'paid',
  stops: [],
};

test.each(['paid', 'unpaid', 'part refunded', 'on delivery'] as const)(
  'an order that is %s and nothing else may go',
  payment => {
    expect(whyHeld({ ...free, payment })).toBeNull();
  },
);

test('each cause holds it and names itself with a cure', () => {
  const stop = { says: 'The postcode is wrong.', cure: 'Correct it.' };
  expect(whyHeld({ ...free, cancelled: true })?.says).toBe('WS-1 is Cancelled.');
  expect(whyHeld({ ...free, stops: [stop] })).toEqual({
    says: 'WS-1 is Stopped: The postcode is wrong.',
    cure: 'Correct it.',
  });
  expect(whyHeld({ ...free, payment: 'refunded' })?.says).toBe('WS-1 was refunded.');
  expect(whyHeld({ ...free, parked: true, parkedReason: 'the buyer rang' })?.says).toBe(
    'WS-1 is Parked: the buyer rang',
  );
  expect(whyHeld({ ...free, unbooked: 'IN-7 at Reno' })).toEqual({
    says: 'IN-7 at Reno is not booked yet.',
    cure: 'Book it under Inbound first.',
  });
});

test('of several causes the one that the stage shows is told', () => {
  const stops = [{ says: 'It is unpaid.', cure: 'Wait.' }];
  const all = { ...free, cancelled: true, parked: true, parkedReason: 'x', stops };
  expect(whyHeld(all)?.says).toContain('Cancelled');
  expect(whyHeld({ ...all, cancelled: false })?.says).toContain('Stopped');
  expect(whyHeld({ ...all, cancelled: false, stops: [] })?.says).toContain('Parked');
});
