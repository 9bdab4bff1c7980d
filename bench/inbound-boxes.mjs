// inbound.boxes: boxes for a shipment of 60 products and 2,000 units against the same by quick fillings alone; and how many boxes twenty
// seeded shipments take against the bound that their volume sets.
import { planBoxes, planInboundBoxes, seeded } from '@auk/core';

const GOAL_MS = 3_000;
const GOAL_BOXES = 1.08;
const CASES = 20;
export const BOX = {
  code: 'L',
  name: 'L',
  inner: { length: 5_080, width: 4_064, height: 3_302 },
  tareMg: 450_000,
  limitMg: 1e9,
  priceMinor: 180,
};
export const LIMITS = { mostMg: 2e9, mostSide: 6_350, heavyMg: 15e6 };
const ROOM = BOX.inner.length * BOX.inner.width * BOX.inner.height;

/** Products of at most a twelfth of the box, so many of each that volume decides. */
export function shipment(random, products, units) {
  const between = (least, most) => least + Math.floor(random() * (most - least));
  return Array.from({ length: products }, (_, i) => {
    let size;
    do size = { length: between(500, 2_300), width: between(400, 1_800), height: between(300, 1_400) };
    while (size.length * size.width * size.height > ROOM / 12);
    const plain = { fragile: false, upright: false, inCases: null, own: false };
    return { id: `p${i}`, units: units(between), size, weightMg: 100_000, ...plain };
  });
}

export function* inboundBoxes() {
  const large = shipment(seeded(60), 60, () => 33);
  const began = performance.now();
  const plan = planInboundBoxes([BOX], large, LIMITS);
  const value = performance.now() - began;
  const pieces = large.map(({ id, size, weightMg, units }) => ({ id, size, weightMg, quantity: units }));
  const from = performance.now();
  planBoxes([BOX], pieces);
  const floor = performance.now() - from;
  const units = large.reduce((n, l) => n + l.units, 0);
  yield {
    n: `60 products, ${units} units, ${plan.boxes.length} boxes`,
    value,
    unit: 'ms',
    floor,
    ratio: value / floor,
    goal: `<= ${GOAL_MS} ms`,
    holds: value <= GOAL_MS,
  };
  let [boxes, bound] = [0, 0];
  let ratios = 0;
  for (let seed = 1; seed <= CASES; seed++) {
    const random = seeded(seed);
    const found = planInboundBoxes(
      [BOX],
      shipment(random, 25, between => between(10, 50)),
      LIMITS,
    );
    boxes += found.boxes.length;
    bound += found.bound;
    ratios += found.boxes.length / found.bound;
  }
  yield {
    n: `${CASES} shipments`,
    value: boxes,
    unit: 'boxes',
    floor: bound,
    ratio: ratios / CASES,
    goal: `ratio <= ${GOAL_BOXES}`,
    holds: ratios / CASES <= GOAL_BOXES,
  };
}
