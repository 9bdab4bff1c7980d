// packing.cut: of 300 boxes cut into 4 to 12 pieces, how many are filled again; the floor is the share that binpackingjs finds.
import { checkBoxPlan, seeded, tryBox } from '@auk/core';
import { byLibrary, cut } from './boxes.mjs';
import { percentile } from './house.mjs';

const CASES = 300;
const GOAL = 85;
const BOX = {
  code: 'BX',
  name: 'BX',
  inner: { length: 6_000, width: 4_000, height: 3_000 },
  tareMg: 0,
  limitMg: 1e9,
  priceMinor: 1,
};

export async function* packingCut() {
  const random = seeded(7);
  const times = [];
  let [found, library] = [0, 0];
  for (let i = 0; i < CASES; i++) {
    const pieces = cut(BOX.inner, 4 + (i % 9), random);
    const began = performance.now();
    const tried = tryBox(BOX, pieces);
    times.push(performance.now() - began);
    const sound = placed => placed && checkBoxPlan(pieces, [{ box: BOX, placed }]).length === 0;
    if (sound(tried.placed)) found++;
    if (sound(byLibrary(BOX, pieces))) library++;
  }
  console.error(
    `  median ${percentile(times, 0.5).toFixed(2)} ms, p99 ${percentile(times, 0.99).toFixed(1)} ms a case`,
  );
  const share = n => (100 * n) / CASES;
  yield {
    n: CASES,
    value: share(found),
    unit: '% found',
    floor: share(library),
    ratio: found / Math.max(1, library),
    goal: `>= ${GOAL} %`,
    holds: share(found) >= GOAL,
  };
}
