// inbound.pallets: in how many of 300 seeded cases a layer of equal boxes reaches the least of the area and Barnes' bound, on three pallets;
// and pallets of different boxes against their bound.
import { fillLayer, mixedPallets, seeded } from '@auk/core';

const CASES = 300;
const GOAL = 0.9;
const DECKS = [
  ['48 x 40 in', 12_192, 10_160],
  ['1200 x 1000 mm', 12_000, 10_000],
  ['1200 x 800 mm', 12_000, 8_000],
];
const LOAD = { deck: 1_440, weightMg: 20e6, mostHeight: 18_288, mostWeightMg: 680e6 };

export function* inboundPallets() {
  for (const [name, length, width] of DECKS) {
    const random = seeded(length + width);
    let [cases, reached] = [0, 0];
    const began = performance.now();
    while (cases < CASES) {
      const b = 80 + Math.floor(random() * 400);
      const a = b + Math.floor(random() * 600);
      const box = { length: a * 10, width: b * 10 };
      if (a > 4 * b || (length * width) / (box.length * box.width) >= 51 || box.length > length) continue;
      cases++;
      const { placed, bound } = fillLayer({ length, width }, box);
      if (placed.length === bound) reached++;
    }
    const each = (performance.now() - began) / CASES;
    yield {
      n: `${name}, ${each.toFixed(1)} ms each`,
      value: reached,
      unit: 'at the bound',
      floor: CASES,
      ratio: reached / CASES,
      goal: `ratio >= ${GOAL}`,
      holds: reached / CASES >= GOAL,
    };
  }
  const random = seeded(9);
  const between = (least, most) => least + Math.floor(random() * (most - least));
  const boxes = Array.from({ length: 8 }, (_, i) => ({
    id: `b${i}`,
    quantity: between(10, 40),
    size: { length: between(2_000, 6_000), width: between(1_500, 4_000), height: between(1_000, 4_000) },
    weightMg: between(3, 15) * 1e6,
    upright: true,
  }));
  const [name, length, width] = DECKS[0];
  const { pallets, bound } = mixedPallets({ name, length, width, ...LOAD }, boxes);
  yield {
    n: `${boxes.reduce((n, b) => n + b.quantity, 0)} boxes of 8 kinds`,
    value: pallets.length,
    unit: 'pallets',
    floor: bound,
    ratio: pallets.length / bound,
    goal: 'told',
    holds: true,
  };
}
