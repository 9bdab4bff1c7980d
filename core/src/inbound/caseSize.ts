import type { Size } from '../units/units.js';

/** What a carton adds to each side of what is in it: 3 mm of board twice. */
const BOARD = 60;
/** Share that a carton adds to the weight of what is in it. */
const CARTON = 1.03;

/**
 * The size and weight of a case of so many units, where nobody measured it: the units stand in rows, columns and layers that need the least
 * board, in a carton of 3 mm. A guess, and shown as one. Example: twelve jars of 69 x 69 x 117 mm stand 3 by 4 in one layer.
 */
export function guessedCase(unit: Size, weightMg: number, units: number): { size: Size; weightMg: number } {
  let best: Size | null = null;
  const board = (s: Size) => s.length * s.width + s.length * s.height + s.width * s.height;
  for (let a = 1; a <= units; a++) {
    if (units % a !== 0) continue;
    for (let b = 1; b <= units / a; b++) {
      if ((units / a) % b !== 0) continue;
      const size = { length: unit.length * a, width: unit.width * b, height: (unit.height * units) / a / b };
      if (!best || board(size) < board(best)) best = size;
    }
  }
  const { length, width, height } = best ?? unit;
  return {
    size: { length: length + BOARD, width: width + BOARD, height: height + BOARD },
    weightMg: Math.ceil(weightMg * units * CARTON),
  };
}
