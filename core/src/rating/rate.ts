import { timesRate } from '../money/round.js';
import { fail, ok, type Result } from '../result.js';
import { cubicFeet, cubicInches, MG, type Size, stepsUp } from '../units/units.js';
import {
  type DimDivisor,
  lengthPlusGirth,
  longestSide,
  type ServiceOptions,
  type ServiceRates,
  type Surcharge,
  type SurchargeWhen,
  type WeightStep,
  type ZoneReach,
} from './rateSheet.js';
import { reachOf, type ZonePlace } from './zones.js';

/** A part of a price with its words. */
export interface Charge {
  name: string;
  minor: number;
}

/** What a price went by: the weight that was paid for in milligrams, or a cubic tier, and why it is not the weight on the scale. */
export interface Billable {
  mg: number;
  /** As people read it: "5 lb", "0.3 cu ft". */
  says: string;
  why: 'weight' | 'volume' | 'cubic';
}

/** What was paid for, in words that are kept with a label. Example: `117 lb by volume`, `0.3 cu ft`, `2 lb`. */
export const billedAs = ({ says, why }: Pick<Billable, 'says' | 'why'>): string =>
  why === 'volume' ? `${says} by volume` : says;

/** Whether such words tell that a parcel was paid by its size. */
export const isByVolume = (words: string): boolean => /( by volume| cu ft)$/.test(words);

/** What a service costs for one parcel: the charges sum to exactly `minor`. `days` are business days on the way. */
export interface Rated {
  service: string;
  name: string;
  minor: number;
  charges: Charge[];
  billable: Billable;
  zone: string;
  days: number;
}

/** A parcel to be rated: outer size in tenths of a millimetre, weight in milligrams, from where and whereto, and what is asked beside carrying. */
export interface RatedParcel {
  size: Size;
  weightMg: number;
  from: ZonePlace;
  to: ZonePlace;
  residential: boolean;
  options?: ServiceOptions;
}

/** Dimensional weight in milligrams, not rounded; 0 without a divisor. Example: 12 x 12 x 12 in by 139 in/lb is 12.43 lb. */
export function dimensionalMg(size: Size, dim: DimDivisor | null): number {
  if (!dim) return 0;
  return dim.unit === 'in/lb'
    ? (cubicInches(size) / dim.value) * MG.lb
    : (size.length * size.width * size.height * 1e-6 * MG.kg) / dim.value;
}

/**
 * Billable weight: the greater of actual and dimensional weight, each rounded up to the step after snapping to it.
 * Example: 12 x 12 x 12 in and 1 lb by 139 in/lb is 13 lb, by volume.
 */
export function billableWeight(
  parcel: { size: Size; weightMg: number },
  step: WeightStep,
  dim: DimDivisor | null,
): Billable {
  const actual = Math.max(1, stepsUp(parcel.weightMg, step.mg));
  const dimensional = stepsUp(dimensionalMg(parcel.size, dim), step.mg);
  const steps = Math.max(actual, dimensional);
  return {
    mg: steps * step.mg,
    says: `${Number((steps * step.count).toFixed(3))} ${step.unit}`,
    why: dimensional > actual ? 'volume' : 'weight',
  };
}

/**
 * Rates one parcel by one service, or says why the service does not take it. The price of the way goes by billable weight, or by a cubic
 * tier where that is cheaper, and is raised to the least of the sheet; surcharges and fuel follow, each rounded to the minor unit, halves
 * away from zero. Rebates take away all of a price, and no more.
 */
export function rate(card: ServiceRates, parcel: RatedParcel): Result<Rated, string> {
  const refused = againstLimits(card, parcel) ?? lacksOption(card, parcel.options);
  if (refused) return fail(refused);
  const reach = reachOf(card.reaches, parcel.from, parcel.to);
  if (!reach) return fail(`${card.name} does not go there`);
  const way = wayOf(card, parcel, reach);
  if (!way) return fail('the parcel is too heavy');
  const charges: Charge[] = [{ name: `${way.billable.says} to zone ${reach.zone}`, minor: way.minor }];
  if (way.minor < card.leastMinor)
    charges.push({ name: 'up to the least price', minor: card.leastMinor - way.minor });
  const base = Math.max(way.minor, card.leastMinor);
  let minor = base;
  for (const surcharge of card.surcharges) {
    const times = timesDue(surcharge.when, parcel, card.step);
    if (times === 0) continue;
    const due = times * ((surcharge.minor ?? 0) + timesRate(base, surcharge.ppm ?? 0));
    charges.push({ name: surcharge.name, minor: due });
    minor += due;
  }
  if (minor < 0) {
    charges.push({ name: 'rebates that are more than the price', minor: -minor });
    minor = 0;
  }
  if (card.fuelPpm > 0) {
    const fuel = timesRate(minor, card.fuelPpm);
    charges.push({ name: 'fuel', minor: fuel });
    minor += fuel;
  }
  return ok({
    service: card.service,
    name: card.name,
    minor,
    charges,
    billable: way.billable,
    zone: reach.zone,
    days: reach.days,
  });
}

function againstLimits(card: ServiceRates, { size, weightMg }: RatedParcel): string | null {
  if (weightMg < card.leastMg) return `it is too light for ${card.name}`;
  if (card.mostSide !== null && longestSide(size) > card.mostSide) return 'the parcel is too long';
  if (card.mostGirth !== null && lengthPlusGirth(size) > card.mostGirth) return 'the parcel is too large';
  return null;
}

/** The options by the kind of surcharge that offers them, with what a refusal calls them. */
const OPTIONS: readonly [keyof ServiceOptions, SurchargeWhen['kind'], string][] = [
  ['signature', 'signature', 'asks for no signature'],
  ['saturday', 'saturday', 'does not deliver on Saturdays'],
  ['dropOff', 'drop-off', 'takes nothing at a counter'],
  ['toPoint', 'point', 'has no pick-up points'],
  ['cashMinor', 'cash', 'takes no money at the door'],
  ['valueMinor', 'value', 'insures nothing'],
];

function lacksOption(card: ServiceRates, options: ServiceOptions | undefined): string | null {
  if (!options) return null;
  for (const [option, kind, says] of OPTIONS)
    if (options[option] && !card.surcharges.some(s => s.when.kind === kind)) return `${card.name} ${says}`;
  return null;
}

/** The price of the way alone: by weight, or by a cubic tier where that is cheaper. */
function wayOf(
  card: ServiceRates,
  parcel: RatedParcel,
  reach: ZoneReach,
): { minor: number; billable: Billable } | null {
  const column = card.zones.indexOf(reach.zone);
  const billable = billableWeight(parcel, card.step, card.dim);
  // Rows stand at whole steps; half a milligram forgives what a double does to a pound.
  const byWeight = card.weights.find(r => billable.mg <= r.upToMg + 0.5)?.prices[column] ?? null;
  if (card.cubic.length > 0 && parcel.weightMg <= (card.weights.at(-1)?.upToMg ?? 0)) {
    const feet = cubicFeet(parcel.size);
    const tier = card.cubic.find(r => feet <= r.upToFeet + 1e-9);
    const byVolume = tier?.prices[column] ?? null;
    if (tier && byVolume !== null && (byWeight === null || byVolume < byWeight))
      return {
        minor: byVolume,
        billable: { mg: billable.mg, says: `${tier.upToFeet} cu ft`, why: 'cubic' },
      };
  }
  return byWeight === null ? null : { minor: byWeight, billable };
}

/** How often a surcharge is due for a parcel; 0 when it is not. Weight counts in whole steps, as the way itself does. */
function timesDue(
  when: Surcharge['when'],
  { size, weightMg, to, residential, options }: RatedParcel,
  step: WeightStep,
): number {
  switch (when.kind) {
    case 'always':
      return 1;
    case 'home':
      return Number(residential && !options?.toPoint);
    case 'signature':
      return Number(options?.signature === true);
    case 'saturday':
      return Number(options?.saturday === true);
    case 'drop-off':
      return Number(options?.dropOff === true);
    case 'point':
      return Number(options?.toPoint === true);
    case 'cash':
      return Number((options?.cashMinor ?? 0) > 0);
    case 'value':
      return Math.ceil(Math.max(0, (options?.valueMinor ?? 0) - when.overMinor) / when.eachMinor);
    case 'girth':
      return Number(lengthPlusGirth(size) > when.overTenths);
    case 'side':
      return Number(longestSide(size) > when.overTenths);
    case 'weight':
      return Number(stepsUp(weightMg, step.mg) * step.mg > when.overMg + 0.5);
    case 'postcode':
      return Number(when.prefixes.some(p => to.postcode.startsWith(p)));
  }
}
