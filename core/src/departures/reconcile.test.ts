import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type DockScan, reconcile } from './reconcile.js';

const parcel = (no: string, scanned: boolean, held: string | null = null) => ({ no, scanned, held });
const scan = (text: string, refused: boolean, says = '', parcel: string | null = null): DockScan => ({
  text,
  parcel,
  refused,
  says,
});

test('every parcel is in exactly one list', () => {
  const any = fc.record({
    no: fc.constantFrom('PA-1', 'PA-2', 'PA-3', 'PA-4'),
    scanned: fc.boolean(),
    held: fc.option(fc.constant('stopped')),
  });
  fc.assert(
    fc.property(fc.uniqueArray(any, { selector: p => p.no }), parcels => {
      const { goes, missing, held } = reconcile(parcels, []);
      expect([...goes, ...missing, ...held].map(p => p.no).sort()).toEqual(parcels.map(p => p.no).sort());
      expect(goes.every(p => p.scanned && p.held === null)).toBe(true);
    }),
  );
});

test('a stranger is named once with the last word of it, and no more when it was taken', () => {
  const scans = [
    scan('PA-9', true, 'no label yet', 'PA-9'),
    scan('re47', true, 'nobody has it'),
    scan('HP1', true, 'wrong truck', 'PA-8'),
    scan('PA-9', true, 'wrong truck', 'PA-9'),
    scan('PA-7', true, 'no label yet', 'PA-7'),
    scan('HP7', false, 'right', 'PA-7'),
  ];
  expect(reconcile([parcel('PA-7', true)], scans).strange).toEqual([
    { what: 'RE47', says: 'nobody has it' },
    { what: 'PA-8', says: 'wrong truck' },
    { what: 'PA-9', says: 'wrong truck' },
  ]);
});

test('what was taken and then must not go is not a stranger', () => {
  const { strange, held } = reconcile(
    [parcel('PA-1', true, 'Stopped')],
    [scan('PA-1', true, 'must not go', 'PA-1')],
  );
  expect(strange).toEqual([]);
  expect(held).toHaveLength(1);
});
