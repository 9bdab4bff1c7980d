import { expect, test } from 'vitest';
import { stopRow, storable } from '../src/intake/checks.service.js';

test('a reason fits into its columns whatever a channel calls its things, and one that fits is left as it is', () => {
  const short = { code: 'bad-postcode', subject: 'postcode', says: 'No.', cure: 'Do.' } as const;
  expect(storable(short)).toEqual(short);
  const long = stopRow({ at: new Date(0) }, 'o', {
    code: 'channel-differs',
    subject: `${'N'.repeat(40)}|${'S'.repeat(60)}#12 priceMinor`,
    says: '🐝'.repeat(500),
    cure: 'C'.repeat(300),
  });
  expect([...long.subject].length).toBe(100);
  expect([...long.says].length).toBe(400);
  expect(long.says.endsWith('🐝')).toBe(true);
  expect(long.cure.length).toBe(200);
  // Cut again it is the same: what is stored is known again.
  expect(storable(long)).toEqual({
    code: long.code,
    subject: long.subject,
    says: long.says,
    cure: long.cure,
  });
});
