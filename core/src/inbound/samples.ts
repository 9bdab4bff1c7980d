import type { Box } from '../packing/boxes.js';
import type { BoxLimits, LineToBox } from './inboundBoxes.js';

/** What tests of boxes and ways share: a pound, an inch, usual limits, a box by its inches, a line of plain pieces of a pound. */
export const LB = 453_592;
export const IN = 254;
export const LIMITS: BoxLimits = { mostMg: 50 * LB, mostSide: 25 * IN, heavyMg: 33 * LB };

export const box = (code: string, l: number, w: number, h: number, priceMinor: number): Box => ({
  code,
  name: code,
  inner: { length: l * IN, width: w * IN, height: h * IN },
  tareMg: LB,
  limitMg: 60 * LB,
  priceMinor,
});

export const line = (id: string, units: number, more: Partial<LineToBox> = {}): LineToBox => ({
  id,
  units,
  size: { length: 4 * IN, width: 4 * IN, height: 5 * IN },
  weightMg: LB,
  fragile: false,
  upright: false,
  inCases: null,
  own: false,
  ...more,
});
