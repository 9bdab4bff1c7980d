import { cubicFeet, MG, type Size } from '../units/units.js';

/** From so many pounds a cubic foot on, a load is of a class: the thirteen steps by density that are usual for part loads in the US (from memory); the denser the lower. */
const STEPS: readonly [density: number, freightClass: number][] = [
  [50, 50],
  [35, 55],
  [30, 60],
  [22.5, 65],
  [15, 70],
  [12, 85],
  [10, 92.5],
  [8, 100],
  [6, 125],
  [4, 175],
  [2, 250],
  [1, 300],
  [0, 400],
];

/** What a freight carrier asks of a load: pounds a cubic foot of all that it takes up, rounded to a tenth, and the class that follows from it. */
export interface FreightFacts {
  density: number;
  freightClass: number;
}

/**
 * Density and class of loaded pallets together; sizes and weights include the pallets. Example: one of 48 x 40 x 48 in with 500 lb has 9.4
 * pounds a cubic foot, class 100.
 */
export function freightFacts(pallets: readonly { size: Size; weightMg: number }[]): FreightFacts {
  const pounds = pallets.reduce((n, p) => n + p.weightMg, 0) / MG.lb;
  const feet = pallets.reduce((n, p) => n + cubicFeet(p.size), 0);
  const density = feet === 0 ? 0 : pounds / feet;
  return {
    density: Math.round(density * 10) / 10,
    freightClass: STEPS.find(([from]) => density >= from)![1],
  };
}
