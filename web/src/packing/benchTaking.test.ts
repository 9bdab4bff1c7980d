import { openPack, type PackLine, type PackState } from '@auk/core';
import { expect, test } from 'vitest';
import { type AtHand, benchActOf } from './benchTaking.js';

const line = (more: Partial<PackLine> = {}): PackLine => ({
  id: 'jar',
  product: {
    id: 'jar',
    sku: 'JAR',
    name: 'jar',
    codes: [{ code: 'JAR', units: 1 }],
    picture: null,
    hint: null,
  },
  wanted: 2,
  packed: 0,
  kitParts: [],
  bundle: null,
  piece: { size: { length: 500, width: 500, height: 500 }, weightMg: 1_000 },
  wants: {},
  optional: false,
  leftOut: 0,
  ...more,
});
const open = (more: Partial<PackLine> = {}): PackState =>
  openPack({ orderNo: 'OR-1', lines: [line(more)], boxes: [] });
const at = (more: Partial<AtHand> = {}): AtHand => ({
  state: open(),
  closed: false,
  over: false,
  mayChange: true,
  mayVoid: true,
  ...more,
});
const act = (text: string, more: Partial<AtHand> = {}) => benchActOf(text, at(more)).act;

test('codes of the scan sheet are acts of the bench, whatever their case and spaces', () => {
  expect(act(' auk-aside ')).toBe('leave');
  expect(act('AUK-ASIDE', { closed: true })).toBe('leave');
  expect([act('AUK-WEIGH'), act('AUK-PHOTO'), act('AUK-CHANGE')]).toEqual(['weigh', 'photo', 'change']);
  expect(benchActOf('rb-leak', at())).toEqual({ act: 'press', code: 'RB-LEAK' });
});

test('after closing a parcel is opened again, its label bought or given back; before, those codes are scans', () => {
  const closed = { closed: true };
  expect(['AUK-REOPEN', 'AUK-VOID', 'AUK-LABEL'].map(t => act(t, closed))).toEqual([
    'reopen',
    'void',
    'buy first',
  ]);
  expect(['AUK-REOPEN', 'AUK-VOID', 'AUK-LABEL'].map(t => act(t))).toEqual(['scan', 'scan', 'scan']);
});

test('who may not change an order or void a label is told so', () => {
  expect(benchActOf('AUK-CHANGE', at({ mayChange: false }))).toMatchObject({
    act: 'fail',
    trouble: { says: 'You may not change what the order wants.' },
  });
  expect(benchActOf('AUK-VOID', at({ closed: true, mayVoid: false }))).toMatchObject({
    act: 'fail',
    trouble: { says: 'There is no bought label here that you may void.' },
  });
});

test('another slip opens its order while nothing is in; once begun, it is only scanned', () => {
  expect([act('OR-2'), act('TO-007'), act('PA-3'), act('PL-4')]).toEqual(['open', 'open', 'open', 'open']);
  expect(act('OR-1')).toBe('scan');
  expect(act('OR-2', { state: open({ packed: 1 }) })).toBe('scan');
  expect([act('JAR'), act('BX-3'), act('3 lb')]).toEqual(['scan', 'scan', 'scan']);
});

test('when an order is over, everything that can be read opens the next; before, only what is an order', () => {
  const over = { closed: true, over: true };
  expect([act('JAR', over), act('OR-2', over), act('2000000000183', over)]).toEqual(['open', 'open', 'open']);
  expect([act('JAR', { closed: true }), act('OR-2', { closed: true })]).toEqual(['scan', 'open']);
});

test('a size that is typed is that of the piece at hand, where nobody knows it', () => {
  const unsized = open({ piece: { size: null, weightMg: 1_000 } });
  expect(benchActOf('5x4x3 in', at({ state: unsized }))).toEqual({
    act: 'measure',
    sku: 'JAR',
    size: { length: 1_270, width: 1_016, height: 762 },
  });
  expect(act('5x4x3 in')).toBe('scan');
  expect(act('JAR', { state: unsized })).toBe('scan');
});
