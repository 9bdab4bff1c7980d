import type { ScanProduct } from '../catalog/scanProduct.js';
import type { Scan, Step } from '../scans/scan.js';
import { count } from '../text.js';
import type { Size } from '../units/units.js';

/** What goods are laid into on the floor. `seen`: it was scanned onto the list. */
export interface Carrier {
  id: string;
  code: string;
  mark: string;
  colour?: string;
  seen?: boolean;
}

/** One task of a pick list: units of one product from one place into one tote. Stops are in the order in which they are walked. */
export interface PickStop {
  id: string;
  placeId: string;
  placeCode: string;
  product: ScanProduct;
  wanted: number;
  taken: number;
  missing: number;
  /** The tote of its order; null while all goods of the list go onto one carrier. */
  tote: Carrier | null;
  orderNo: string;
  /** The stop at which its units were missing, where it was added on the way. */
  instead?: string;
  /** The lot that was chosen, where the product is kept in lots. */
  lot?: { code: string; expiry: string | null };
  /** What the buyer and the staff wrote, where the lead has the picker see it. */
  notes?: string[];
  /** How large a piece is, where the lead has it shown. */
  size?: Size;
}

/** What the lead has chosen for the walk. */
export interface WalkChoices {
  /** Totes are scanned onto the list before anything is taken. */
  bringTotes: boolean;
  /** After each stop the tote is scanned, where more than one is out. */
  confirmTote: boolean;
  /** What follows an order that is whole while others are not. */
  afterOrder: 'go on' | 'choose' | 'stop';
}

/** What must be said before the walk goes on: the tote that was laid into, or that an order is done. */
export type WalkPause = { for: 'tote'; stop: number } | { for: 'order'; orderNo: string };

/**
 * State of picking one list. `at` is the stop at hand, `placeSeen` the place last scanned, `seen` tells that its product was scanned
 * there. `heap`: the goods of all orders go onto one carrier and are sorted later.
 */
export interface PickState {
  kind: 'pick';
  listNo: string;
  heap: boolean;
  choices: WalkChoices;
  /** What the totes stand on, or what the heap lies on. */
  trolley: Carrier | null;
  stops: PickStop[];
  at: number;
  placeSeen: string | null;
  seen: boolean;
  pause: WalkPause | null;
  /** Orders that must not go on, as the picker was told. */
  held: string[];
  /** The staging place at which the finished list was dropped. */
  dropped: string | null;
  history: { stop: number; units: number; missing: number }[];
}

/** What the ledger must do after a pick scan. Negative units put back. */
export type PickEffect =
  | { type: 'take'; stopId: string; units: number }
  | { type: 'missing'; stopId: string; units: number }
  | { type: 'give up'; stopId: string }
  | { type: 'mix-up'; stopId: string; sku: string }
  | { type: 'trolley'; placeId: string }
  | { type: 'tote'; from: string; to: string }
  | { type: 'drop'; code: string };

export type PickStep = Step<PickState, PickEffect>;

/**
 * Facts of the house that concern a walk under way: stops that were found for what was missing (before the stop named, or at the end),
 * or an order that must not go on.
 */
export type PickNews =
  | { kind: 'stops'; stops: PickStop[]; before: string | null }
  | { kind: 'held'; orderNo: string; stage: string };

/** A scan of the floor; `news` stands in one that the house itself made. */
export type PickScan = Scan & { news?: PickNews };

/** What counts while the lead has chosen nothing: given totes, nothing to confirm, straight on. */
export const FIRST_WALK_CHOICES: WalkChoices = { bringTotes: false, confirmTote: false, afterOrder: 'go on' };

/** Opens a pick list at its first unfinished stop. */
export function openPick(
  listNo: string,
  stops: PickStop[],
  { heap = false, choices = FIRST_WALK_CHOICES }: { heap?: boolean; choices?: WalkChoices } = {},
): PickState {
  return {
    kind: 'pick',
    listNo,
    heap,
    choices,
    trolley: null,
    stops,
    at: Math.max(
      0,
      stops.findIndex(s => stopOpen(s) > 0),
    ),
    placeSeen: null,
    seen: false,
    pause: null,
    held: [],
    dropped: null,
    history: [],
  };
}

/** Units of a stop neither taken nor found missing. */
export const stopOpen = (s: PickStop): number => s.wanted - s.taken - s.missing;

/** True when nothing is left to take. */
export const pickDone = (state: PickState): boolean => state.stops.every(s => stopOpen(s) === 0);

/** The totes of a list, each once, in the order in which they are filled first. */
export function totesOf(state: PickState): Carrier[] {
  return [...new Map(state.stops.flatMap(s => (s.tote ? [[s.tote.id, s.tote] as const] : []))).values()];
}

/** The tote that is to be scanned onto the list next; null when none is. */
export function toteToBring(state: PickState): Carrier | null {
  if (!state.choices.bringTotes || state.heap) return null;
  return totesOf(state).find(t => !t.seen) ?? null;
}

/** The order that a tote is for. */
export const orderOfTote = (state: PickState, tote: Carrier): string =>
  state.stops.find(s => s.tote?.id === tote.id)!.orderNo;

/** What a picker is to do next, in a sentence. */
export function nextHint(state: PickState): string {
  if (state.pause?.for === 'tote') return `Scan tote ${state.stops[state.pause.stop]!.tote!.mark}.`;
  const stop = state.stops[state.at];
  if (!stop || pickDone(state)) return bringIt(state);
  if (state.pause?.for === 'order')
    return state.choices.afterOrder === 'choose' ? 'Scan the place you go to next.' : 'Say that you go on.';
  if (state.heap && !state.trolley) return 'Scan a trolley or a tote that all of it goes onto.';
  const bring = toteToBring(state);
  if (bring) return `Scan a tote for ${orderOfTote(state, bring)}.`;
  if (state.placeSeen !== stop.placeCode) return `Go to ${stop.placeCode} and scan the place.`;
  const into = stop.tote ? ` into tote ${stop.tote.mark}` : state.heap ? ` onto ${state.trolley!.mark}` : '';
  return `${count(stopOpen(stop), 'piece')} of ${stop.product.name}${into}.`;
}

/** So many totes are named by their marks; of more it is told how many they are. */
const NAMED_TOTES = 4;

/** Where a whole list goes: what of it holds goods. */
export function bringIt(state: PickState): string {
  const taken = state.stops.filter(s => s.taken > 0);
  if (taken.length === 0) return 'Nothing was taken, so there is nothing to bring.';
  if (state.heap) return `Bring ${state.trolley?.mark ?? 'the goods'} to be sorted.`;
  const marks = totesOf({ ...state, stops: taken }).map(t => t.mark);
  const totes =
    marks.length === 0
      ? 'the goods'
      : marks.length > NAMED_TOTES
        ? `the ${marks.length} totes`
        : `tote${marks.length > 1 ? 's' : ''} ${marks.join(', ')}`;
  return `Bring ${totes} to a staging place or to the benches.`;
}

/**
 * The next open stop after `at`, else the first open one anywhere; stays when all are done. The place stays seen while it is the same.
 */
export function walkOn(state: PickState): PickState {
  const later = state.stops.findIndex((s, i) => i > state.at && stopOpen(s) > 0);
  const at = later === -1 ? state.stops.findIndex(s => stopOpen(s) > 0) : later;
  if (at === -1) return state;
  return {
    ...state,
    at,
    seen: false,
    placeSeen: state.stops[at]!.placeCode === state.placeSeen ? state.placeSeen : null,
  };
}
