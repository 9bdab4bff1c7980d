// packing.boxplan: a box plan for each of 1,000 orders of 1 to 12 pieces among 12 kinds of boxes; the floor is the single fit, which lays
// nothing out. Every plan is checked; no plan may cost more than a sound one of binpackingjs, nor than the single fit where that can be laid out.
import { checkBoxPlan, planBoxes, seeded, tryBox } from '@auk/core';
import { anOrder, BOXES, cost, libraryCost, singleFit, weightOf } from './boxes.mjs';
import { percentile } from './house.mjs';

const ORDERS = 1_000;
const MEDIAN_MS = 5;
const P99_MS = 100;

export async function* packingBoxplan() {
  const random = seeded(11);
  const [times, floors] = [[], []];
  const seen = { wrong: 0, dearer: 0, cheaper: 0, impossible: 0, single: 0, dearerThanSingle: 0 };
  for (let i = 0; i < ORDERS; i++) {
    const pieces = anOrder(random);
    let began = performance.now();
    const plan = planBoxes(BOXES, pieces, { cost });
    times.push(performance.now() - began);
    began = performance.now();
    const single = singleFit(BOXES, pieces);
    floors.push(performance.now() - began);
    const placeable = pieces.filter(p => !plan.unplaced.some(u => u.id === p.id));
    if (checkBoxPlan(placeable, plan.parcels).length > 0) seen.wrong++;
    if (plan.unplaced.length > 0) continue;
    const library = libraryCost(BOXES, pieces);
    if (library < plan.costMinor) seen.dearer++;
    if (library > plan.costMinor) seen.cheaper++;
    if (!single) continue;
    seen.single++;
    if (tryBox(single, pieces).fits !== 'yes') seen.impossible++;
    else if (cost(single, single.tareMg + weightOf(pieces)) < plan.costMinor) seen.dearerThanSingle++;
  }
  console.error(
    `  ${seen.wrong} plans unsound; cheaper than the library ${seen.cheaper}, dearer ${seen.dearer}; the single fit proposes a box for ${seen.single}, of which ${seen.impossible} could not be laid out in it; dearer than it ${seen.dearerThanSingle}`,
  );
  const sound = seen.wrong === 0 && seen.dearer === 0 && seen.dearerThanSingle === 0;
  for (const [n, share, most] of [
    ['median', 0.5, MEDIAN_MS],
    ['p99', 0.99, P99_MS],
  ]) {
    const [value, floor] = [percentile(times, share), percentile(floors, share)];
    yield {
      n,
      value,
      unit: 'ms',
      floor,
      ratio: value / floor,
      goal: `< ${most} ms, none unsound or dearer`,
      holds: value < most && sound,
    };
  }
}
