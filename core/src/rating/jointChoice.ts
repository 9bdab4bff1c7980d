import type { Box, Piece } from '../packing/boxes.js';
import { type BoxPlan, type PlanAsk, type PlannedParcel, planBoxes } from '../packing/boxPlan.js';
import { stepsUp } from '../units/units.js';

/**
 * What one way to send a parcel costs: the price of the label by box and weight of all of it in milligrams, or null when it is not taken.
 * The price changes only from one whole step of weight to the next.
 */
export interface WayToSend<T> {
  way: T;
  stepMg: number;
  price: (box: Box, weightMg: number) => number | null;
}

/** A parcel with the way it is sent: `labelMinor` beside the price of its box. */
export interface SentParcel<T> extends PlannedParcel {
  way: T;
  labelMinor: number;
}

/** Boxes and ways chosen together. `costMinor` is boxes and labels; `proven` when nothing is cheaper. */
export interface JointChoice<T> {
  parcels: SentParcel<T>[];
  costMinor: number;
  proven: boolean;
  unplaced: BoxPlan['unplaced'];
}

/** No label costs so much; a box that no way takes is passed over at this price. */
const NEVER = 1e12;

/**
 * Chooses boxes and ways to send them together, at the least sum of boxes and labels: the box plan is searched with the cheapest way of
 * each box and weight as its cost, so that a smaller box, two boxes or another service win exactly where they are cheaper. Parcels of one
 * order may go different ways; ties go to the earlier way. A piece that fits only boxes which no way takes is unplaced.
 */
export function chooseTogether<T>(
  boxes: readonly Box[],
  pieces: readonly Piece[],
  ways: readonly WayToSend<T>[],
  ask: Omit<PlanAsk, 'cost'> = {},
): JointChoice<T> {
  const cheapest = cheapestWay(ways);
  const plan = planBoxes(boxes, pieces, {
    ...ask,
    cost: (box, weightMg) => box.priceMinor + (cheapest(box, weightMg)?.minor ?? NEVER),
  });
  const sent = plan.parcels.map(p => ({ p, by: cheapest(p.box, p.weightMg) }));
  const parcels = sent.flatMap(({ p, by }): SentParcel<T>[] =>
    by ? [{ ...p, way: by.way, labelMinor: by.minor }] : [],
  );
  const nobodys = sent.flatMap(({ p, by }) => (by ? [] : p.placed.map(q => q.piece.id)));
  return {
    parcels,
    costMinor: parcels.reduce((sum, p) => sum + p.costMinor, 0),
    proven: plan.proven,
    unplaced: [
      ...plan.unplaced,
      ...[...new Set(nobodys)].map(id => ({ id, why: 'No service takes its parcel.' })),
    ],
  };
}

interface Cheapest<T> {
  way: T;
  minor: number;
}

/** The cheapest way of a box and weight. Each way is asked once for a box and a whole step of weight. */
function cheapestWay<T>(ways: readonly WayToSend<T>[]): (box: Box, weightMg: number) => Cheapest<T> | null {
  const known = ways.map(() => new Map<Box, number[]>());
  return (box, weightMg) => {
    let best: Cheapest<T> | null = null;
    for (const [i, { way, stepMg, price }] of ways.entries()) {
      const prices = known[i]!.get(box) ?? [];
      known[i]!.set(box, prices);
      const step = stepsUp(weightMg, stepMg);
      prices[step] ??= price(box, weightMg) ?? NEVER;
      const minor = prices[step];
      if (minor < (best?.minor ?? NEVER)) best = { way, minor };
    }
    return best;
  };
}
