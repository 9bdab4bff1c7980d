import { expect, test } from 'vitest';
import { readScaleLine, settledWeight } from './scaleLine.js';

test.each([
  ['ST,GS,+  2.35 lb', { state: 'at rest', mg: 1_065_942 }],
  ['ST,NT,+0001.250kg', { state: 'at rest', mg: 1_250_000 }],
  ['US,GS,-   12 g\r', { state: 'moving', mg: -12_000 }],
  ['st,gs,8.0oz', { state: 'at rest', mg: 226_796 }],
  ['OL,GS', { state: 'overloaded' }],
  ['ST,GS', null],
  ['ST,GS,+ 2.35', null],
  ['ST,GS,+ 2.35 st', null],
  ['', null],
  ['ST,GS,+ 99999999 kg', null],
])('%s', (line, reading) => {
  expect(readScaleLine(line)).toEqual(reading);
});

test('a weight counts when it lies still twice', () => {
  const of = (...lines: string[]) => settledWeight(lines.map(l => readScaleLine(l)!));
  expect(of('ST,GS,+ 1 kg')).toBeNull();
  expect(of('ST,GS,+ 1 kg', 'ST,GS,+ 1 kg')).toBe(1_000_000);
  expect(of('ST,GS,+ 1 kg', 'US,GS,+ 1 kg')).toBeNull();
  expect(of('ST,GS,+ 1 kg', 'ST,GS,+ 1.01 kg')).toBeNull();
  expect(of('ST,GS,+ 0 kg', 'ST,GS,+ 0 kg')).toBeNull();
});
