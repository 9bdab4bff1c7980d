import type { Box } from '../packing/boxes.js';
import { rate } from '../rating/rate.js';
import type { ServiceRates } from '../rating/rateSheet.js';
import type { ZonePlace } from '../rating/zones.js';
import type { Size } from '../units/units.js';
import { type Door, type Handing, type HandingCharges, handingMinor } from './handing.js';
import {
  type BoxLimits,
  type InboundBox,
  type InboundBoxes,
  type LineToBox,
  planInboundBoxes,
} from './inboundBoxes.js';
import { type MixedPallets, mixedPallets } from './mixedPallet.js';
import type { PalletKind } from './pallet.js';
import { type DemandShare, spreadLines } from './placement.js';
import { type PreparationCost, type PreparationRule, preparationCost } from './preparation.js';
import type { Way, WayFacts } from './ways.js';

/** A network as ways to it are planned; money in minor units of the house's currency. */
export interface WayNetwork {
  name: string;
  /** The dock that takes everything, and the centers with their shares of the demand. */
  dock: { center: string; at: ZonePlace };
  centers: readonly (DemandShare & { at: ZonePlace })[];
  /** What it takes a unit; null where it takes nothing so. */
  feeMinor: Record<Way['placement'], number | null>;
  /** Days from the door until on sale. */
  daysToSale: Record<Way['placement'], number>;
  storageMinor: number;
  takes: readonly Way['form'][];
  limits: BoxLimits;
  /** Its own kind of pallet; the one of the question where it has none. */
  pallet?: PalletKind;
  /** What it wants done to the units of each line; what the lines say where it has no rules of its own. */
  prepare?: readonly (readonly PreparationRule[])[];
}

/** A carrier at the rates of a network, or at the house's own. */
export interface WayCarrier {
  name: string;
  /** The network whose rates these are; null for the house's own. */
  of: string | null;
  form: Way['form'];
  services: readonly ServiceRates[];
  /** What handing over costs for each center; nothing where nobody says. */
  handing?: HandingCharges;
}

/** A line of a shipment, with what is done to its units and by whom. */
export interface WayLine extends LineToBox {
  prepare: readonly PreparationRule[];
  by: 'us' | 'network';
}

export interface WayAsk {
  from: ZonePlace;
  lines: readonly WayLine[];
  boxes: readonly Box[];
  pallet: PalletKind;
  palletMinor: number;
  networks: readonly WayNetwork[];
  carriers: readonly WayCarrier[];
  /** How the goods get to their carrier, and what it finds here. */
  handing: Handing;
  door: Door;
  /** Our own work. */
  minutes: { box: number; pallet: number };
}

/** A way that is not offered, with why. */
export interface DroppedWay extends Way {
  why: string;
}

/** What goes to one center: its boxes, and the pallets that take them. */
export interface PlannedPart {
  center: string;
  boxes: InboundBox[];
  pallets: { size: Size; weightMg: number }[];
}

/** All ways, those that are dropped with why, and what is planned for each network and placement. */
export interface PlannedWays {
  ways: WayFacts[];
  dropped: DroppedWay[];
  parts: { network: string; placement: Way['placement']; parts: PlannedPart[] }[];
  /** Lines that go into no box of a network. */
  left: { network: string; id: string; why: string }[];
}

const PLACEMENTS: readonly Way['placement'][] = ['one dock', 'spread'];
/** While ways are compared, boxes are planned quicker than those that are packed. */
const LOOKS = 3;

/**
 * Every network by every placement, as parcels and as pallets, by every carrier: boxes and pallets are planned once for a network and placement,
 * each center's pieces are rated with the service that is cheapest for all of them, as orders are. Where a center is nearer the pieces cost
 * less and arrive sooner; a way takes as long as its slowest part.
 */
export function planWays(ask: WayAsk): PlannedWays {
  const planned: PlannedWays = { ways: [], dropped: [], parts: [], left: [] };
  const units = ask.lines.reduce((n, l) => n + l.units, 0);
  const box = boxing(ask);
  for (const network of ask.networks) {
    const prepared = preparedAll(ask.lines, network);
    for (const placement of PLACEMENTS) {
      const { parts, left } = partsOf(ask, network, placement, box);
      planned.parts.push({ network: network.name, placement, parts });
      for (const l of left)
        if (!planned.left.some(k => k.network === network.name && k.id === l.id))
          planned.left.push({ network: network.name, ...l });
      for (const carrier of ask.carriers) {
        if (carrier.of !== null && carrier.of !== network.name) continue;
        const way: Way = {
          network: network.name,
          placement,
          form: carrier.form,
          carrier: carrier.name,
          rates: carrier.of === null ? 'ours' : 'theirs',
        };
        const found = oneWay(ask, network, placement, carrier, parts);
        if ('why' in found) planned.dropped.push({ ...way, why: found.why });
        else
          planned.ways.push({
            ...way,
            ...found,
            feeMinor: network.feeMinor[placement]! * units,
            storageMinor: network.storageMinor * units,
            preparationMinor: prepared.feeMinor + prepared.materialMinor,
            minutes: prepared.minutes + found.minutes,
          });
      }
    }
  }
  return planned;
}

function preparedAll(lines: readonly WayLine[], { prepare }: WayNetwork): PreparationCost {
  return lines
    .map((l, i) => preparationCost(prepare?.[i] ?? l.prepare, l.units, l.by))
    .reduce(
      (a, b) => ({
        feeMinor: a.feeMinor + b.feeMinor,
        materialMinor: a.materialMinor + b.materialMinor,
        minutes: a.minutes + b.minutes,
      }),
      { feeMinor: 0, materialMinor: 0, minutes: 0 },
    );
}

type Boxing = (units: readonly number[], limits: BoxLimits) => InboundBoxes;

/** Boxes for so many units of each line; networks with the same limits share them. */
function boxing({ lines, boxes }: WayAsk): Boxing {
  const known = new Map<string, InboundBoxes>();
  return (units, limits) => {
    const key = JSON.stringify([units, limits]);
    const some = lines.flatMap((l, i) => (units[i]! > 0 ? [{ ...l, units: units[i]! }] : []));
    const plan = known.get(key) ?? planInboundBoxes(boxes, some, limits, LOOKS);
    known.set(key, plan);
    return plan;
  };
}

/** What goes where: all of it to the dock, or to each center its share in whole cases. */
function partsOf(
  { lines, pallet }: WayAsk,
  network: WayNetwork,
  placement: Way['placement'],
  box: Boxing,
): { parts: PlannedPart[]; left: { id: string; why: string }[] } {
  const shares =
    placement === 'one dock'
      ? [{ center: network.dock.center, units: lines.map(l => l.units) }]
      : spreadLines(
          lines.map(l => ({ units: l.units, perCase: l.inCases?.units ?? 1 })),
          network.centers,
        );
  const left: { id: string; why: string }[] = [];
  const parts = shares.map(({ center, units }): PlannedPart => {
    const plan = box(units, network.limits);
    left.push(...plan.left);
    return { center, boxes: plan.boxes, pallets: palletsFor(network.pallet ?? pallet, plan.boxes) };
  });
  return { parts, left };
}

/** Pallets for boxes: like ones together, each kind as heavy as its heaviest; where each box stands, and those that go on none. */
export function palletPlan(
  kind: PalletKind,
  boxes: readonly { box: Pick<Box, 'code' | 'inner'>; weightMg: number }[],
): MixedPallets {
  const kinds = [...new Set(boxes.map(b => b.box.code))].map(code => {
    const of = boxes.filter(b => b.box.code === code);
    const weightMg = Math.max(...of.map(b => b.weightMg));
    return { id: code, quantity: of.length, size: of[0]!.box.inner, weightMg, upright: true };
  });
  return mixedPallets(kind, kinds);
}

/** What the pallets of boxes measure and weigh; none where a box goes on no pallet. */
export function palletsFor(
  kind: PalletKind,
  boxes: readonly { box: Pick<Box, 'code' | 'inner'>; weightMg: number }[],
): PlannedPart['pallets'] {
  const { pallets, left } = palletPlan(kind, boxes);
  if (left.length > 0) return [];
  return pallets.map(p => ({
    size: { length: kind.length, width: kind.width, height: p.height },
    weightMg: p.weightMg,
  }));
}

type Found = Pick<WayFacts, 'freightMinor' | 'materialMinor' | 'minutes' | 'days'>;

function oneWay(
  { from, pallet, palletMinor, minutes, handing, door }: WayAsk,
  network: WayNetwork,
  placement: Way['placement'],
  carrier: WayCarrier,
  parts: readonly PlannedPart[],
): Found | { why: string } {
  const why = notSo(network, placement, carrier.form, parts);
  if (why) return { why };
  const onPallets = carrier.form === 'pallets';
  if (onPallets && parts.some(p => p.pallets.length === 0))
    return { why: `A box is too large or too heavy for a pallet of ${(network.pallet ?? pallet).name}.` };
  const handed = carrier.handing ? handingMinor(carrier.handing, handing, door) : 0;
  if (handed === null) return { why: `${carrier.name} fetches; nothing can be brought to it.` };
  let [freightMinor, onTheWay] = [0, 0];
  for (const part of parts) {
    const pieces = onPallets
      ? part.pallets
      : part.boxes.map(b => ({ size: b.box.inner, weightMg: b.weightMg }));
    const sent = cheapest(carrier, pieces, from, placeOf(network, placement, part.center));
    if ('why' in sent) return { why: `To ${part.center}: ${sent.why}` };
    freightMinor += sent.minor + handed;
    onTheWay = Math.max(onTheWay, sent.days);
  }
  const boxes = parts.flatMap(p => p.boxes);
  const pallets = onPallets ? parts.reduce((n, p) => n + p.pallets.length, 0) : 0;
  return {
    freightMinor,
    materialMinor: boxes.reduce((n, b) => n + b.box.priceMinor, 0) + pallets * palletMinor,
    minutes: boxes.length * minutes.box + pallets * minutes.pallet,
    days: onTheWay + network.daysToSale[placement],
  };
}

/** Why a network takes nothing in a way, whoever carries it; null when it does. */
function notSo(
  network: WayNetwork,
  placement: Way['placement'],
  form: Way['form'],
  parts: readonly PlannedPart[],
): string | null {
  if (network.feeMinor[placement] === null) return `${network.name} takes nothing so: ${placement}.`;
  if (!network.takes.includes(form)) return `${network.name} takes no ${form}.`;
  return parts.every(p => p.boxes.length === 0) ? 'Nothing of it goes into a box.' : null;
}

const placeOf = (network: WayNetwork, placement: Way['placement'], center: string): ZonePlace =>
  placement === 'one dock' ? network.dock.at : network.centers.find(c => c.center === center)!.at;

/** The service of a carrier that is cheapest for all pieces together; why none takes them. */
function cheapest(
  { services, name }: WayCarrier,
  pieces: readonly { size: Size; weightMg: number }[],
  from: ZonePlace,
  to: ZonePlace,
): { minor: number; days: number } | { why: string } {
  let best: { minor: number; days: number } | null = null;
  let why = `${name} has no service for it.`;
  for (const card of services) {
    let [minor, days] = [0, 0];
    for (const { size, weightMg } of pieces) {
      const rated = rate(card, { size, weightMg, from, to, residential: false });
      if (!rated.ok) {
        why = `${card.name}: ${rated.problem}`;
        minor = Number.NaN;
        break;
      }
      minor += rated.value.minor;
      days = Math.max(days, rated.value.days);
    }
    if (!Number.isNaN(minor) && (!best || minor < best.minor)) best = { minor, days };
  }
  return best ?? { why };
}
