// packing.cut: of 300 boxes cut into 4 to 12 pieces, how many are filled again; the floor is the share that binpackingjs finds.
import { checkBoxPlan, seeded, shuffled, tryBox } from '@auk/core';
import { byLibrary } from './boxes.mjs';
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
const SIDES = ['length', 'width', 'height'];

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

/** A box cut by planes, each through a whole piece. */
function cut(space, count, random) {
  const parts = [space];
  while (parts.length < count) {
    const i = Math.floor(random() * parts.length);
    const side = SIDES[Math.floor(random() * 3)];
    const whole = parts[i];
    if (whole[side] < 200) continue;
    const at = Math.round(whole[side] * (0.2 + 0.6 * random()));
    parts.splice(i, 1, { ...whole, [side]: at }, { ...whole, [side]: whole[side] - at });
  }
  return shuffled(
    parts.map((size, i) => ({ id: `C${i}`, size, weightMg: 1_000, quantity: 1 })),
    random,
  );
}
