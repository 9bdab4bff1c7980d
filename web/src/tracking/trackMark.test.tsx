import { expect, test } from 'vitest';
import { shown } from '../parts/shown.js';
import { TrackMark, withDays } from './parts/TrackMark.js';

const mark = (track: string | null, trouble: object | null = null) =>
  shown(<TrackMark track={track as never} trouble={trouble as never} />).words;

test('where a parcel stands has a shape and a word; trouble goes before it, with why', () => {
  expect(mark('delivered')).toBe('✓ delivered');
  expect(mark('on the way')).toBe('▶ on the way');
  expect(mark(null)).toBe('▶ left the house');
  expect(mark('on the way', { trouble: 'late', says: 'It was promised for 2026-11-24.' })).toMatch(
    /^▲ late It was promised for .*24.*\.$/,
  );
});

test('days within words are told as people read them', () => {
  expect(withDays('from 2026-11-24 to 2026-12-01')).not.toMatch(/2026-/);
  expect(withDays('no day here')).toBe('no day here');
});
