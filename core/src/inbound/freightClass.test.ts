import { expect, test } from 'vitest';
import { MG, TENTHS } from '../units/units.js';
import { freightFacts } from './freightClass.js';

const inches = (length: number, width: number, height: number) => ({
  length: length * TENTHS.in,
  width: width * TENTHS.in,
  height: height * TENTHS.in,
});
const pallet = (lb: number, height = 48) => ({ size: inches(48, 40, height), weightMg: lb * MG.lb });

test('density is of all pallets together, and the class follows from it', () => {
  expect(freightFacts([pallet(500)])).toEqual({ density: 9.4, freightClass: 100 });
  expect(freightFacts([pallet(500), pallet(1_500)])).toEqual({ density: 18.8, freightClass: 70 });
  expect(freightFacts([pallet(40)])).toEqual({ density: 0.8, freightClass: 400 });
  expect(freightFacts([pallet(2_800)]).freightClass).toBe(50);
  expect(freightFacts([])).toEqual({ density: 0, freightClass: 400 });
});

test('each step begins at its density', () => {
  // A cubic foot of so many pounds.
  const cube = (lb: number) =>
    freightFacts([{ size: inches(12, 12, 12), weightMg: lb * MG.lb }]).freightClass;
  const steps: [number, number][] = [
    [1, 300],
    [2, 250],
    [4, 175],
    [6, 125],
    [8, 100],
    [10, 92.5],
    [12, 85],
    [15, 70],
    [22.5, 65],
    [30, 60],
    [35, 55],
    [50, 50],
  ];
  for (const [lb, freightClass] of steps) {
    expect(cube(lb + 0.01)).toBe(freightClass);
    expect(cube(lb - 0.01)).toBeGreaterThan(freightClass);
  }
});
