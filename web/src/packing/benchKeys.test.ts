import { openPack, type PackLine, packScan } from '@auk/core';
import { expect, test } from 'vitest';
import { keysOf } from './benchKeys.js';

const line = (id: string, more: Partial<PackLine> = {}): PackLine => ({
  id,
  product: {
    id,
    sku: id,
    name: id,
    codes: [
      { code: `CASE-${id}`, units: 6 },
      { code: `ONE-${id}`, units: 1 },
    ],
    picture: null,
    hint: null,
  },
  wanted: 2,
  packed: 0,
  kitParts: [],
  bundle: null,
  piece: null,
  wants: {},
  optional: false,
  leftOut: 0,
  ...more,
});
const EVERYTHING = { all: true, byHand: true, scale: true, change: true };
const open = (lines = [line('JAR')], more: Partial<Parameters<typeof openPack>[0]> = {}) =>
  openPack({ orderNo: 'OR-1', lines, boxes: [], ...more });
const names = (state = open(), may = EVERYTHING) => keysOf(state, may).map(k => `${k.key} ${k.name}`);
const scanned = (text: string, state = open()) =>
  packScan(state, { id: text, text, at: '2026-11-26T08:00:00.000Z', device: 'd', count: 1 }).state;

test('a key is there when it does something, and keeps its number', () => {
  expect(names()).toEqual([
    '1 undo',
    '2 label',
    '3 set aside',
    '5 next box',
    '7 all the rest',
    '8 press one',
    '9 photo',
    'F6 change',
    '0 weigh',
  ]);
  expect(names(open(), { all: false, byHand: false, scale: false, change: false })).toEqual([
    '1 undo',
    '2 label',
    '3 set aside',
    '5 next box',
    '9 photo',
  ]);
  expect(names(scanned('AUK-ALL'))).not.toContain('8 press one');
  expect(names(open(undefined, { notes: [{ text: 'Read.', word: null }] }))).toContain('4 yes');
  expect(names(open([line('SEED', { optional: true })]))).toContain('6 leave out');
  expect(
    names(
      open(undefined, {
        choices: { checkOnly: true, photo: false, toleranceMg: 0, tolerancePpm: 0, padding: 0 },
      }),
    ),
  ).toContain('2 close');
});

test('pressing one counts one, whatever other codes the product has', () => {
  const press = keysOf(open(), EVERYTHING).find(k => k.name === 'press one')!;
  expect(press).toMatchObject({ scans: 'ONE-JAR', by: 'pressed' });
  expect(scanned(press.scans).lines[0]!.packed).toBe(1);
});
