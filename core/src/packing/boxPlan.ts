import { group } from '../group.js';
import type { Size } from '../units/units.js';
import {
  type Box,
  type Piece,
  type Placed,
  spacesOf,
  unitsOf,
  volumeOf,
  waysToLie,
  weightOf,
} from './boxes.js';
import { FILL_RULES, fillSpace } from './fillSpace.js';
import { fitSpace, plainlyTooMuch } from './fitSpace.js';
import type { Searched, Steps } from './searchSpace.js';
import { type PlacedShape, placedPieces, type Shape, shapesOf } from './shapes.js';

/** One parcel of a plan: its box, what lies where in the order in which it goes in, weight with the box, and what it costs. */
export interface PlannedParcel {
  box: Box;
  placed: Placed[];
  weightMg: number;
  costMinor: number;
}

/** A box plan. `proven` when no other has a lower cost; `unplaced` has no box, each with why. */
export interface BoxPlan {
  parcels: PlannedParcel[];
  costMinor: number;
  proven: boolean;
  unplaced: { id: string; why: string }[];
}

/** What a parcel costs in house minor units: the box and its way, by the box and the weight of all of it in milligrams. */
export type ParcelCost = (box: Box, weightMg: number) => number;

/** Fills a space with as many of the shapes as it can, of no more than so many milligrams. */
export type FillSpace = (space: Size, shapes: readonly Shape[], limitMg: number) => PlacedShape[];

export interface PlanAsk {
  /** What a parcel costs; the price of its box when it is not given. */
  cost?: ParcelCost;
  /** Padding on each side of what is fragile, in tenths of a millimetre. */
  padding?: number;
  /** Steps of search for each question whether something fits into a box. */
  steps?: number;
  /** Another way to fill a room beside the quick rules, such as `fillAhead`, where several boxes are filled: it takes longer and fills better. */
  fill?: FillSpace;
}

/** Steps that a question takes at most when nobody says otherwise: some milliseconds. */
const STEPS = 5000;
/** So many questions of a plan may use all their steps; later ones are answered by quick fillings alone. */
const QUESTIONS = 12;
/** Up to so many units, all ways to share them among parcels are looked at. */
const SHARED = 6;

/**
 * Proposes boxes for pieces: the least cost, then the least volume of boxes, then the order in which the boxes are given. One parcel is
 * tried first; several where one is not enough or dearer. What ships alone has a parcel for each unit, what is kept apart parcels of its
 * own. Bounded by its steps, not by a clock, so that the same question has the same answer. Example: one piece of 5 x 5 x 5 cm into boxes of 10 and 20 cm takes the first.
 */
export function planBoxes(boxes: readonly Box[], pieces: readonly Piece[], ask: PlanAsk = {}): BoxPlan {
  const planner = new Planner(
    boxes.filter(b => b.stock !== 0),
    ask,
  );
  const plan = planner.plan(pieces.filter(p => p.quantity > 0));
  const over = tooMany(plan);
  return over
    ? planBoxes(
        boxes.filter(b => b !== over),
        pieces,
        ask,
      )
    : plan;
}

/** A box of which the plan takes more than there are. */
function tooMany(plan: BoxPlan): Box | undefined {
  return plan.parcels.find(
    p => p.box.stock != null && plan.parcels.filter(q => q.box === p.box).length > p.box.stock,
  )?.box;
}

/**
 * Tries one box: whether the pieces fit into it, and how they lie then. 'unknown' when that was not found within the steps.
 */
export function tryBox(
  box: Box,
  pieces: readonly Piece[],
  { padding = 0, steps = STEPS }: PlanAsk = {},
): { fits: 'yes'; placed: Placed[] } | { fits: 'no'; why: string } | { fits: 'unknown' } {
  const weight = weightOf(pieces);
  if (weight > box.limitMg) return { fits: 'no', why: 'too heavy' };
  const ruled = againstRules(box, pieces);
  if (ruled) return { fits: 'no', why: ruled };
  const searched = fitBox(box, shapesOf(pieces, padding), { left: steps });
  if (searched.found === 'yes') return { fits: 'yes', placed: placedPieces(searched.placed) };
  return searched.found === 'no' ? { fits: 'no', why: 'too large' } : { fits: 'unknown' };
}

function againstRules(box: Box, pieces: readonly Piece[]): string | null {
  const units = unitsOf(pieces);
  const alone = pieces.find(p => p.alone);
  if (alone && units > 1) return `${alone.id} ships alone`;
  const mixed = pieces.find(p => p.apart !== pieces[0]!.apart);
  if (mixed) return `${mixed.id} has a parcel of its own`;
  const many = pieces.find(p => p.most && p.quantity > p.most);
  if (many) return `at most ${many.most} ${many.id} in a parcel`;
  return box.kind === 'mailer' && pieces.some(p => p.fragile) ? 'fragile' : null;
}

function fitBox(box: Box, shapes: readonly Shape[], steps: Steps): Searched {
  let known = true;
  for (const space of spacesOf(box)) {
    const searched = fitSpace(space, shapes, steps);
    if (searched.found === 'yes') return searched;
    if (searched.found === 'unknown') known = false;
  }
  return { found: known ? 'no' : 'unknown' };
}

interface Single {
  parcel: PlannedParcel | null;
  proven: boolean;
}
interface Shared {
  parcels: PlannedParcel[];
  cost: number;
  proven: boolean;
}

class Planner {
  private readonly cost: ParcelCost;
  private readonly padding: number;
  private readonly steps: number;
  private readonly fill: FillSpace | undefined;
  /** Steps that are left for the whole plan. */
  private left: number;
  private readonly singles = new Map<string, Single>();
  private readonly fullest = new Map<string, Placed[]>();
  private readonly most = new Map<string, number>();

  constructor(
    private readonly boxes: readonly Box[],
    ask: PlanAsk,
  ) {
    this.cost = ask.cost ?? (box => box.priceMinor);
    this.padding = ask.padding ?? 0;
    this.steps = ask.steps ?? STEPS;
    this.fill = ask.fill;
    this.left = this.steps * QUESTIONS;
  }

  plan(pieces: readonly Piece[]): BoxPlan {
    const unplaced: BoxPlan['unplaced'] = [];
    const placeable: Piece[] = [];
    for (const piece of pieces) {
      const why = this.hasNoBox(piece);
      if (why) unplaced.push({ id: piece.id, why });
      else placeable.push(piece);
    }
    const plans = placeable
      .filter(p => p.alone)
      .flatMap(p => Array.from({ length: p.quantity }, () => this.shared([{ ...p, quantity: 1 }])));
    const together = placeable.filter(p => !p.alone);
    for (const pieces of group(together, p => p.apart ?? '').values()) plans.push(this.shared(pieces));
    const parcels = plans.flatMap(p => p.parcels);
    return {
      parcels,
      costMinor: parcels.reduce((sum, p) => sum + p.costMinor, 0),
      proven: plans.every(p => p.proven),
      unplaced,
    };
  }

  /** Why a single unit of a piece goes into no box; null when it goes into one. */
  private hasNoBox(piece: Piece): string | null {
    const one = [{ ...piece, quantity: 1 }];
    if (this.single(one).parcel) return null;
    const shapes = shapesOf(one, this.padding);
    const large = this.boxes.every(b => spacesOf(b).every(s => plainlyTooMuch(s, shapes)));
    return large ? 'It is larger than every box.' : 'No box that is large enough may carry it.';
  }

  /** One parcel if it is the best, else several. */
  private shared(pieces: readonly Piece[]): Shared {
    const { parcel, proven } = this.single(pieces);
    const least = Math.min(...this.boxes.map(b => this.cost(b, b.tareMg)));
    const one: Shared | null = parcel && { parcels: [parcel], cost: parcel.costMinor, proven };
    // Two parcels cost at least twice the cheapest.
    if (one && one.cost <= 2 * least) return one;
    const several =
      unitsOf(pieces) <= SHARED
        ? this.allWays(pieces.flatMap(p => Array.from({ length: p.quantity }, () => p)))
        : this.inFullBoxes(pieces, one?.cost ?? Infinity);
    if (!one) return several!;
    return several && better(several, one)
      ? several
      : { ...one, proven: one.proven && (several?.proven ?? false) };
  }

  /** The cheapest box that takes all of it. */
  private single(pieces: readonly Piece[]): Single {
    const key = keyOf(pieces);
    const known = this.singles.get(key);
    if (known) return known;
    const found = this.cheapest(pieces);
    this.singles.set(key, found);
    return found;
  }

  private cheapest(pieces: readonly Piece[]): Single {
    const weight = weightOf(pieces);
    const boxes = this.boxes
      .filter(box => weight <= box.limitMg && !againstRules(box, pieces))
      .map((box, order) => ({ box, order, cost: this.cost(box, box.tareMg + weight) }))
      .sort((a, b) => a.cost - b.cost || volumeOf(a.box.inner) - volumeOf(b.box.inner) || a.order - b.order);
    const shapes = boxes.length > 0 ? shapesOf(pieces, this.padding) : [];
    let proven = true;
    for (const { box, cost } of boxes) {
      const steps = { left: Math.min(this.steps, this.left) };
      const given = steps.left;
      const searched = fitBox(box, shapes, steps);
      this.left -= given - Math.max(0, steps.left);
      if (searched.found === 'unknown') proven = false;
      if (searched.found !== 'yes') continue;
      return {
        parcel: {
          box,
          placed: placedPieces(searched.placed),
          weightMg: box.tareMg + weight,
          costMinor: cost,
        },
        proven,
      };
    }
    return { parcel: null, proven };
  }

  /** The least that some pieces can cost in one parcel, by volume, weight and their longest sides. */
  private atLeast(pieces: readonly Piece[]): number {
    const weight = weightOf(pieces);
    const shapes = shapesOf(pieces, this.padding);
    let least = Infinity;
    for (const box of this.boxes) {
      const cost = this.cost(box, box.tareMg + weight);
      if (cost >= least || weight > box.limitMg || againstRules(box, pieces)) continue;
      if (spacesOf(box).some(s => !plainlyTooMuch(s, shapes))) least = cost;
    }
    return least;
  }

  /** Of all ways to share a few units among parcels, the best. Shares are sets of units, as bits. */
  private allWays(units: readonly Piece[]): Shared | null {
    const best = new Map<number, Shared | null>([[0, { parcels: [], cost: 0, proven: true }]]);
    const bounds = new Map<number, number>();
    const of = (set: number): Piece[] => {
      const counts = new Map<Piece, number>();
      units.forEach((u, i) => {
        if (set & (1 << i)) counts.set(u, (counts.get(u) ?? 0) + 1);
      });
      return [...counts].map(([p, quantity]) => ({ ...p, quantity }));
    };
    const bound = (set: number): number => {
      const known = bounds.get(set) ?? this.atLeast(of(set));
      bounds.set(set, known);
      return known;
    };
    const share = (set: number): Shared | null => {
      if (best.has(set)) return best.get(set)!;
      let found: Shared | null = null;
      let proven = true;
      const first = set & -set;
      // Every share with the first unit, the largest first.
      for (let part = set; part > 0; part = (part - 1) & set) {
        if (!(part & first)) continue;
        if (bound(part) >= (found?.cost ?? Infinity)) continue;
        const single = this.single(of(part));
        if (!single.proven) proven = false;
        if (!single.parcel || single.parcel.costMinor > (found?.cost ?? Infinity)) continue;
        const rest = share(set ^ part);
        if (!rest) continue;
        const cost = single.parcel.costMinor + rest.cost;
        const shared = { parcels: [single.parcel, ...rest.parcels], cost, proven: rest.proven };
        if (!found || better(shared, found)) found = shared;
      }
      if (found) found.proven = proven && found.proven;
      best.set(set, found);
      return found;
    };
    return share((1 << units.length) - 1);
  }

  /**
   * For many units: boxes of one kind are filled one after another, until what is left goes into one; the best over all kinds and counts.
   * What the kind takes nothing of goes into others.
   */
  private inFullBoxes(pieces: readonly Piece[], under: number): Shared | null {
    const plans: Shared[] = [];
    let least = under;
    const look = (parcels: PlannedParcel[], cost: number) => {
      plans.push({ parcels, cost, proven: false });
      least = Math.min(least, cost);
    };
    for (const box of this.boxes) {
      const parcels: PlannedParcel[] = [];
      let cost = 0;
      let rest = [...pieces];
      while (rest.length > 0 && cost < least) {
        const last = parcels.length > 0 ? this.single(rest).parcel : null;
        if (last) look([...parcels, last], cost + last.costMinor);
        const full = this.filled(box, rest);
        if (!full) {
          if (parcels.length === 0) break;
          const others = this.shared(rest);
          look([...parcels, ...others.parcels], cost + others.cost);
          break;
        }
        parcels.push(full.parcel);
        cost += full.parcel.costMinor;
        rest = full.rest;
      }
      if (rest.length === 0) look(parcels, cost);
    }
    return plans.reduce<Shared | null>((best, plan) => (best && !better(plan, best) ? best : plan), null);
  }

  /** A room filled by each quick rule, and in another way where one is given. */
  private *fillings(space: Size, pieces: readonly Piece[], limitMg: number): Generator<PlacedShape[]> {
    for (const rule of FILL_RULES) yield fillSpace(space, shapesOf(pieces, this.padding), rule);
    if (this.fill) yield this.fill(space, shapesOf(pieces, this.padding), limitMg);
  }

  /** As much as goes into one box of a kind; null when nothing does. */
  private filled(box: Box, pieces: readonly Piece[]): { parcel: PlannedParcel; rest: Piece[] } | null {
    const placed = this.fullestOf(box, this.bearable(box, pieces));
    if (placed.length === 0) return null;
    const weightMg = box.tareMg + placed.reduce((w, p) => w + p.piece.weightMg, 0);
    const used = group(placed, p => p.piece.id);
    const rest = pieces.flatMap(p => {
      const quantity = p.quantity - (used.get(p.id)?.length ?? 0);
      return quantity > 0 ? [{ ...p, quantity }] : [];
    });
    return { parcel: { box, placed, weightMg, costMinor: this.cost(box, weightMg) }, rest };
  }

  /**
   * What of the pieces one box may hold, by their own rules and never more of one than the box has volume for: whatever is put into it, more
   * of them change nothing, since no room in it could take them.
   */
  private bearable(box: Box, pieces: readonly Piece[]): Piece[] {
    return pieces
      .filter(p => !(p.fragile && box.kind === 'mailer') && p.weightMg <= box.limitMg)
      .map(p => ({ ...p, quantity: Math.min(p.quantity, p.most ?? p.quantity, this.mostIn(box, p)) }));
  }

  /** How many units of a piece a box has volume for. */
  private mostIn(box: Box, piece: Piece): number {
    const key = `${box.code} ${piece.id} ${piece.apart ?? ''}`;
    const known = this.most.get(key);
    if (known !== undefined) return known;
    const room = Math.max(...spacesOf(box).map(volumeOf));
    const most = Math.floor(room / Math.min(...waysToLie(piece).map(volumeOf)));
    this.most.set(key, most);
    return most;
  }

  /** Of all fillings of a box the one with the most volume. A plan with many boxes asks the same again and again. */
  private fullestOf(box: Box, pieces: readonly Piece[]): Placed[] {
    const key = `${box.code} ${keyOf(pieces)}`;
    const known = this.fullest.get(key);
    if (known) return known;
    let best: { placed: Placed[]; volume: number } = { placed: [], volume: 0 };
    for (const space of spacesOf(box))
      for (const shapes of this.fillings(space, pieces, box.limitMg)) {
        const placed = withinLimit(placedPieces(shapes), box.limitMg);
        const volume = placed.reduce((v, p) => v + volumeOf(p.size), 0);
        if (volume > best.volume) best = { placed, volume };
      }
    this.fullest.set(key, best.placed);
    return best.placed;
  }
}

const keyOf = (pieces: readonly Piece[]): string =>
  pieces.map(p => `${p.id} ${p.quantity} ${p.apart ?? ''}`).join();

/** The first pieces that a box may carry; a piece that rests on one that is left out is left out too. */
function withinLimit(placed: readonly Placed[], limitMg: number): Placed[] {
  let weight = 0;
  const kept: Placed[] = [];
  for (const p of placed) {
    if (weight + p.piece.weightMg > limitMg) break;
    weight += p.piece.weightMg;
    kept.push(p);
  }
  return kept;
}

function better(a: Shared, b: Shared): boolean {
  const volume = (s: Shared) => s.parcels.reduce((v, p) => v + volumeOf(p.box.inner), 0);
  return a.cost < b.cost || (a.cost === b.cost && volume(a) < volume(b));
}
