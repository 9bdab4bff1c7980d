import type { NeedsPerson } from '@auk/contract';
import { expect, test } from 'vitest';
import { shown } from '../parts/shown.js';
import { Need } from './parts/Need.js';

const need = (more: Partial<NeedsPerson>) => {
  const n: NeedsPerson = {
    code: 'short',
    subject: 'JAR-12',
    says: 'Honey jar is short.',
    detail: '4 missing',
    cure: 'Receive or count it.',
    orders: 3,
    job: null,
    ...more,
  };
  return shown(<Need need={n} />);
};

test.each<[code: string, subject: string, to: string, act: string]>([
  ['short', 'JAR 12/A', '/products/JAR%2012%2FA', 'Look'],
  ['unlinked-listing', 'FM-JAR & LID', '/products/listings?words=FM-JAR%20%26%20LID', 'Link'],
  ['label', 'PA-7', '/parcels', 'Watch'],
  ['doubt', 'PA-7', '/parcels?look=PA-7', 'Decide'],
  ['claim', 'PA-7', '/parcels/claims', 'Claim'],
  ['message', 'FM-1', '/orders?stage=all&amp;words=FM-1', 'Answer'],
  ['inbound', 'IN-3', '/inbound/IN-3', 'Look'],
  ['parked', 'FM-1', '/orders?stage=Parked', 'Read'],
  ['bad-postcode', 'FM-1', '/orders?stage=Stopped&amp;reason=bad-postcode', 'Correct'],
  ['something-new', 'FM-1', '/orders?stage=Stopped&amp;reason=something-new', 'Look'],
])('what needs a person leads to its cure: %s', (code, subject, to, act) => {
  const { words, markup } = need({ code, subject });
  expect(words).toBe(`3 Honey jar is short. 4 missing ${act}`);
  expect(markup).toContain(`href="${to}"`);
});

test('a job that gave up is tried again on the spot', () => {
  const { words, markup } = need({ code: 'job', job: 'j-1' });
  expect(words).toMatch(/Try again$/);
  expect(markup).not.toContain('href');
});
