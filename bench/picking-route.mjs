// picking.route: the exact walk through 60 stops on 20 aisles, start and end apart in half of the cases; against an S-shape walk through the same stops.
import { plainWalks, seeded, walksOf } from '@auk/core';
import { oneBlock, places, twoBlocks } from './floors.mjs';
import { percentile } from './house.mjs';

const CASES = 1_000;
const STOPS = 60;
const GOAL_MS = 5;

export async function* pickingRoute() {
  for (const [n, layout] of [
    ['one block', oneBlock],
    ['two blocks', twoBlocks],
  ]) {
    const random = seeded(1);
    const [times, floors] = [[], []];
    let longer = 0;
    for (let i = 0; i < CASES; i++) {
      const end =
        i % 2 === 0 ? layout.end : { cross: 0, along: Math.round(random() * layout.crossAisles[0].to) };
      const here = { ...layout, end };
      const spots = places(random, STOPS);
      const walks = walksOf(here);
      const plain = plainWalks(here);
      const visit = walks.visit(spots);
      let began = performance.now();
      const { distance } = walks.walk(spots);
      times.push(performance.now() - began);
      began = performance.now();
      longer += plain(visit, 'S-shape') / distance / CASES;
      floors.push(performance.now() - began);
    }
    console.error(`  ${n}: an S-shape walk is ${longer.toFixed(2)} times as long on average`);
    const [value, floor] = [percentile(times, 0.95), percentile(floors, 0.95)];
    yield {
      n,
      value,
      unit: 'ms p95',
      floor,
      ratio: value / floor,
      goal: `p95 < ${GOAL_MS} ms`,
      holds: value < GOAL_MS,
    };
  }
}
