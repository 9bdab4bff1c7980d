// rating.joint: box and service together for the 1,000 orders of packing.boxplan, over all services of the demo's house accounts; the floor is the box plan alone.
import { chooseTogether, planBoxes, rate, seeded } from '@auk/core';
import { CARRIERS } from '@auk/demo';
import { zonePlace } from '@auk/server/reference/postcodes';
import { anOrder, BOXES, cost } from './boxes.mjs';

const ORDERS = 1_000;
const GOAL = 2;
const TOWNS = ['43215', '83702', '31201', '55802', '90210'];

export async function* ratingJoint() {
  const random = seeded(11);
  const orders = Array.from({ length: ORDERS }, () => anOrder(random));
  const cards = CARRIERS.flatMap(c => c.accounts.flatMap(a => a.sheet.services));
  const from = zonePlace('US', '43701');
  const places = TOWNS.map(t => zonePlace('US', t));
  const ways = to =>
    cards.map(card => ({
      way: card.service,
      stepMg: card.step.mg,
      price: (box, weightMg) => {
        const rated = rate(card, { size: box.inner, weightMg, from, to, residential: true });
        return rated.ok ? rated.value.minor : null;
      },
    }));
  // Each order by both in turn, so that both are measured on the same warm machine.
  let [joint, plain, parcels, split] = [0, 0, 0, 0];
  for (const [i, pieces] of orders.entries()) {
    let began = performance.now();
    planBoxes(BOXES, pieces, { cost });
    plain += performance.now() - began;
    began = performance.now();
    const chosen = chooseTogether(BOXES, pieces, ways(places[i % places.length]));
    joint += performance.now() - began;
    parcels += chosen.parcels.length;
    if (chosen.parcels.length > 1) split++;
  }
  console.error(`  ${parcels} parcels; ${split} orders go in several`);
  yield {
    n: ORDERS,
    value: joint / 1000,
    unit: 's',
    floor: plain / 1000,
    ratio: joint / plain,
    goal: `ratio <= ${GOAL}`,
    holds: joint <= GOAL * plain,
  };
}
