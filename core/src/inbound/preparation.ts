import { type FactValue } from '../catalog/facts.js';
import type { Size } from '../units/units.js';

/** What may be done to a unit before it goes to a center. */
export const PREPARATIONS = ['label', 'bag', 'bubble', 'carton', 'sleeve', 'set', 'hazard papers'] as const;
export type Preparation = (typeof PREPARATIONS)[number];

/** A rule of a network: what a product with some property needs, what the network takes for doing it (minor units a unit, its currency; null where it does not do it), and how long it takes us (seconds a unit). */
export interface PreparationRule {
  needs: Preparation;
  /** Facts of a product, any of which calls for it; none calls for it always. */
  when: readonly string[];
  feeMinor: number | null;
  /** What the material costs us, minor units a unit. */
  materialMinor: number;
  seconds: number;
}

/** A product as preparation looks at it. */
export interface ToPrepare {
  sku: string;
  facts: Readonly<Record<string, FactValue | undefined>>;
  size: Size | null;
  weightMg: number;
}

/** What is missing of a product before it may go there, as words, and the fact that cures it. */
export interface LackingFact {
  fact: string;
  says: string;
}

/** Facts without which nothing goes to a center; of hazardous goods and batteries more is asked. */
const ALWAYS_ASKED: readonly [fact: string, says: string][] = [['category', 'its category is not known']];
const OF_HAZARDOUS: readonly [fact: string, says: string][] = [
  ['unNumber', 'its UN number is not known'],
  ['hazardClass', 'its hazard class is not known'],
  ['hazardName', 'its proper shipping name is not known'],
];
const OF_ABROAD: readonly [fact: string, says: string][] = [
  ['customsCode', 'its customs code is not known'],
  ['customsWords', 'it has no words for customs'],
  ['origin', 'its country of origin is not known'],
  ['valueMinor', 'its value is not known'],
];

/** What a product needs before it may go to a center of a network, in the order in which it is done. */
export function preparationsOf(product: ToPrepare, rules: readonly PreparationRule[]): PreparationRule[] {
  const has = (fact: string): boolean => product.facts[fact] === true;
  return rules
    .filter(r => r.when.length === 0 || r.when.some(has))
    .sort((a, b) => PREPARATIONS.indexOf(b.needs) - PREPARATIONS.indexOf(a.needs));
}

/** What must be known of a product before it may go there, and is not. */
export function factsLacking(product: ToPrepare, { abroad }: { abroad: boolean }): LackingFact[] {
  const asked = [
    ...ALWAYS_ASKED,
    ...(product.facts.hazardous === true || product.facts.battery === true ? OF_HAZARDOUS : []),
    ...(abroad ? OF_ABROAD : []),
  ];
  return [
    ...(product.size ? [] : [{ fact: 'size', says: 'its size is not known' }]),
    ...(product.weightMg > 0 ? [] : [{ fact: 'weight', says: 'its weight is not known' }]),
    ...asked.flatMap(([fact, says]) => {
      const value = product.facts[fact];
      return value === undefined || value === null || value === '' ? [{ fact, says }] : [];
    }),
  ];
}

/** What preparing costs and takes: money in minor units of the network's currency, minutes of our own work rounded up. */
export interface PreparationCost {
  feeMinor: number;
  materialMinor: number;
  minutes: number;
}

/**
 * What it costs to prepare so many units, done by us or by the network; what the network does not do is done by us. Example: 10 units at
 * 0.80 are 8.00.
 */
export function preparationCost(
  needed: readonly PreparationRule[],
  units: number,
  by: 'us' | 'network',
): PreparationCost {
  let [feeMinor, materialMinor, seconds] = [0, 0, 0];
  for (const rule of needed)
    if (by === 'network' && rule.feeMinor !== null) feeMinor += rule.feeMinor * units;
    else {
      materialMinor += rule.materialMinor * units;
      seconds += rule.seconds * units;
    }
  return { feeMinor, materialMinor, minutes: Math.ceil(seconds / 60) };
}
