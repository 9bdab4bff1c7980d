import { formatWeight } from '../units/units.js';
import type { Box, Piece, Placed } from './boxes.js';
import { weightOf } from './boxes.js';
import { planBoxes, tryBox } from './boxPlan.js';
import type { PackChoices } from './packState.js';

/** What boxes are proposed by: room around what is fragile (tenths of a millimetre), what a parcel counts beside its box (minor units), and the boxes that are wanted. */
export interface Proposing {
  padding: number;
  parcelCostMinor: number;
  /** The boxes that the products prefer. */
  preferred: readonly string[];
  /** The boxes that were chosen with the order's service, one for each parcel. */
  wanted: readonly string[];
}

/** A parcel in the box that is proposed for it. */
export interface ProposedParcel {
  box: Box;
  placed: Placed[];
  /** With its box. */
  weightMg: number;
}

/**
 * The boxes that are proposed for pieces before anything is in: one box that a person or a rule chose, or that all products prefer, where
 * all of it goes in; else the cheapest plan. Boxes are named by their codes; what is wanted and is no box of the house counts as not said.
 */
export function proposeBoxes(
  boxes: readonly Box[],
  pieces: readonly Piece[],
  { padding, parcelCostMinor, preferred, wanted }: Proposing,
): ProposedParcel[] {
  const own = oneBox(boxes, preferred, wanted);
  const tried = own && tryBox(own, pieces, { padding });
  if (own && tried?.fits === 'yes')
    return [{ box: own, placed: tried.placed, weightMg: own.tareMg + weightOf(pieces) }];
  return planBoxes(boxes, pieces, { cost: b => parcelCostMinor + b.priceMinor, padding }).parcels;
}

/** The one box that is wanted, else the one that the products prefer; undefined where there is none, or several. */
export function oneBox(
  boxes: readonly Box[],
  preferred: readonly string[],
  wanted: readonly string[],
): Box | undefined {
  const known = wanted.filter(w => boxes.some(b => b.code === w));
  const one = known.length === 1 ? known : preferred;
  return one.length === 1 ? boxes.find(b => b.code === one[0]) : undefined;
}

/** The box and the weight (milligrams, box included) of a parcel; null while they are not known. */
export interface BoxedWeight {
  boxCode: string | null;
  weightMg: number | null;
}

/**
 * Why a label that was bought before its parcel was packed is not right for what was packed, as a sentence; null when it is. A parcel
 * that was only checked has neither box nor weight, and keeps its label.
 */
export function labelMisfit(
  boughtFor: BoxedWeight,
  packed: BoxedWeight,
  { toleranceMg, tolerancePpm }: Pick<PackChoices, 'toleranceMg' | 'tolerancePpm'>,
): string | null {
  const off = packed.weightMg === null ? 0 : packed.weightMg - (boughtFor.weightMg ?? 0);
  const most = Math.max(toleranceMg, ((boughtFor.weightMg ?? 0) * tolerancePpm) / 1_000_000);
  const sameBox = packed.boxCode === null || packed.boxCode === boughtFor.boxCode;
  if (sameBox && Math.abs(off) <= most) return null;
  return `Its label was bought for ${saysOf(boughtFor)}; it is ${saysOf(packed)}.`;
}

const saysOf = ({ boxCode, weightMg }: BoxedWeight): string =>
  `${boxCode ?? 'no box'}, ${weightMg === null ? 'not weighed' : formatWeight(weightMg, 'imperial')}`;
