import type { ReceiveView } from '@auk/contract';
import { openReceive, type ReceiveLine, type ReceiveState, receiveScan } from '@auk/core';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { onDevice } from '../kept.js';
import { sampleProduct } from '../parts/scanProduct.sample.js';
import { shown } from '../parts/shown.js';
import { deviceId } from '../scans/device.js';
import { DockSide } from './parts/DockSide.js';

beforeEach(() => vi.stubGlobal('localStorage', undefined));
afterEach(() => {
  onDevice.clear();
  vi.unstubAllGlobals();
});

const awaited = (sku: string, putAway: ReceiveLine['putAway']): ReceiveLine => ({
  id: sku,
  product: sampleProduct(sku),
  ordered: 10,
  received: 0,
  lotWanted: false,
  expiryWanted: false,
  putAway,
  lots: [],
});
const opened = openReceive('PO-1', 'Mill', [
  awaited('JAR', { code: 'B-02-1', why: 'it lies there already' }),
  awaited('LID', null),
]);
function scanned(...texts: string[]): ReceiveState {
  let state = opened;
  texts.forEach((text, i) => {
    const made = { id: String(i), text, at: '2026-11-25T08:00:00.000Z', device: deviceId(), count: i };
    state = receiveScan(state, made).state;
  });
  return state;
}
const dock = (
  state: ReceiveState,
  more: { waiting?: number; offline?: boolean; freed?: ReceiveView['freed'] } = {},
) =>
  shown(
    <DockSide
      state={state}
      view={{ freed: more.freed ?? [] } as unknown as ReceiveView}
      waiting={more.waiting ?? 0}
      offline={more.offline ?? false}
    />,
  ).words;

test('beside the dock stands where what is in hand goes, why there, and how much else lies about', () => {
  expect(dock(opened)).toContain('Nothing is in hand.');
  const words = dock(scanned('JAR', 'JAR'));
  expect(words).toContain(
    '2 × Product JAR to B-02-1 it lies there already. Scan the place when they lie there.',
  );
  const both = dock(scanned('JAR', 'JAR', 'LID'));
  expect(both).toContain('1 × Product LID to any place no place has room; choose one.');
  expect(both).toContain('2 more lie on the dock.');
});

test('what is on its way to the server is counted, and without a network it is said that nothing is lost', () => {
  expect(dock(opened, { waiting: 3 })).toContain('3 on their way');
  const words = dock(opened, { waiting: 3, offline: true });
  expect(words).toContain('No network: scans are kept and sent later.');
  expect(words).not.toContain('on their way');
});

test('orders that became Clear by it are named', () => {
  expect(dock(opened)).toContain('Orders that waited for this show here, most urgent first.');
  const freed = [{ id: 'o', no: 'OR-1', channelNumber: 'FM-1', buyer: 'Ruth Penrose' }];
  expect(dock(opened, { freed })).toContain('● FM-1 Ruth Penrose');
});
