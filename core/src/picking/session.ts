import { type Parsed, parseScan } from '../barcode/parseScan.js';
import { type Answer, refuse, type Scan, type Step } from '../scans/scan.js';
import { count, quoted } from '../text.js';

/** One code of a product and how many units a scan of it counts. */
export interface CountedCode {
  code: string;
  units: number;
}

/** A product as the floor and the bench need it. */
export interface ScanProduct {
  id: string;
  sku: string;
  name: string;
  codes: CountedCode[];
  picture: string | null;
  hint: string | null;
}

/** One task of a pick list: units of one product from one place into one tote. Stops are in walking order. */
export interface PickStop {
  id: string;
  placeId: string;
  placeCode: string;
  product: ScanProduct;
  wanted: number;
  taken: number;
  missing: number;
  tote: { id: string; code: string; mark: string; colour?: string } | null;
  orderNo: string;
  /** The lot that was chosen, where the product is kept in lots. */
  lot?: { code: string; expiry: string | null };
}

/** State of picking one list. `at` is the stop at hand, `placeSeen` the place last scanned, `seen` tells that its product was scanned there. */
export interface PickState {
  kind: 'pick';
  listNo: string;
  stops: PickStop[];
  at: number;
  placeSeen: string | null;
  seen: boolean;
  history: { stop: number; units: number; missing: number }[];
}

/** What the ledger must do after a pick scan. Negative units put back. */
export type PickEffect =
  | { type: 'take'; stopId: string; units: number }
  | { type: 'missing'; stopId: string; units: number };
type PickStep = Step<PickState, PickEffect>;

/** Opens a pick list at its first unfinished stop. */
export function openPick(listNo: string, stops: PickStop[]): PickState {
  return {
    kind: 'pick',
    listNo,
    stops,
    at: Math.max(
      0,
      stops.findIndex(s => stopOpen(s) > 0),
    ),
    placeSeen: null,
    seen: false,
    history: [],
  };
}

/** Units of a stop neither taken nor found missing. */
export const stopOpen = (s: PickStop): number => s.wanted - s.taken - s.missing;

/** True when nothing is left to take. */
export const pickDone = (state: PickState): boolean => state.stops.every(s => stopOpen(s) === 0);

/** Answers one scan while picking: places, products, totes, a typed number, and the commands ALL, SHORT, SKIP, UNDO. */
export function pickScan(state: PickState, scan: Scan): PickStep {
  const parsed = parseScan(scan.text, Number(scan.at.slice(0, 4)));
  if (!parsed.ok) return refuse(state, parsed.problem, nextHint(state));
  const p = parsed.value;
  if (p.type === 'command') return command(state, p.name);
  const stop = state.stops[state.at];
  if (!stop || pickDone(state))
    return refuse(
      state,
      `${state.listNo} is complete; nothing more is taken.`,
      'Bring the totes to the benches.',
    );
  const code = scan.text.trim().toUpperCase();
  if (scan.known?.kind === 'place' || state.stops.some(s => s.placeCode === code)) return place(state, code);
  if (p.type === 'own' && p.kind === 'tote') return tote(state, stop, p.code);
  if (p.type === 'quantity') return several(state, stop, p.n);
  return product(state, stop, p, scan);
}

function nextHint(state: PickState): string {
  const stop = state.stops[state.at];
  if (!stop || stopOpen(stop) === 0) return 'Bring the totes to the benches.';
  if (state.placeSeen !== stop.placeCode) return `Go to ${stop.placeCode} and scan the place.`;
  const into = stop.tote ? ` into tote ${stop.tote.mark}` : '';
  return `${count(stopOpen(stop), 'piece')} of ${stop.product.name}${into}.`;
}

function place(state: PickState, code: string): PickStep {
  const here = state.stops.findIndex(
    (s, i) =>
      s.placeCode === code &&
      stopOpen(s) > 0 &&
      (i === state.at || state.stops[state.at]!.placeCode !== code),
  );
  if (here === -1) {
    const done = state.stops.some(s => s.placeCode === code);
    return refuse(
      state,
      done ? `All is taken from ${code} already.` : `${code} is not a place of this list.`,
      `You want ${state.stops[state.at]!.placeCode}.`,
    );
  }
  const next: PickState = { ...state, at: here, placeSeen: code, seen: false };
  return {
    state: next,
    answer: { kind: 'moved', tone: 'right', says: `Right place, ${code}.`, next: nextHint(next) },
    effects: [],
  };
}

function tote(state: PickState, stop: PickStop, code: string): PickStep {
  if (!stop.tote) return refuse(state, 'This list is picked without totes.', nextHint(state));
  if (stop.tote.code !== code)
    return refuse(state, `Wrong tote: this goes into ${stop.tote.mark}.`, nextHint(state));
  return {
    state,
    answer: { kind: 'moved', tone: 'right', says: `Right tote, ${stop.tote.mark}.`, next: nextHint(state) },
    effects: [],
  };
}

function product(
  state: PickState,
  stop: PickStop,
  p: Extract<Parsed, { type: 'product' | 'text' | 'own' | 'weight' }>,
  scan: Scan,
): PickStep {
  const code = p.type === 'product' || p.type === 'own' ? p.code : scan.text.trim().toUpperCase();
  const units = (s: PickStop) => s.product.codes.find(c => c.code === code)?.units;
  if (units(stop) === undefined) {
    // The same place may hold another product of the list: the scan chooses it.
    const other =
      state.placeSeen === stop.placeCode
        ? state.stops.findIndex(
            s => s.placeCode === stop.placeCode && stopOpen(s) > 0 && units(s) !== undefined,
          )
        : -1;
    if (other !== -1) {
      const step = product({ ...state, at: other, seen: false }, state.stops[other]!, p, scan);
      return step.answer.kind === 'refused' ? { ...step, state } : step;
    }
    // Scanned before any place: whoever has found it already goes to the stop that wants it.
    const wants = state.stops.findIndex(s => stopOpen(s) > 0 && units(s) !== undefined);
    if (wants !== -1 && state.placeSeen === null) return goTo(state, wants);
    const done = state.stops.find(s => units(s) !== undefined);
    if (done && stopOpen(done) === 0)
      return refuse(state, `${done.product.name} is complete; put this one back.`, nextHint(state));
    const what = done?.product.name ?? scan.known?.name;
    return refuse(
      state,
      what ? `Wrong product: this is ${what}.` : `Nothing on this list has the code ${quoted(code)}.`,
      `You want ${stop.product.name}.`,
    );
  }
  if (state.placeSeen !== stop.placeCode)
    return refuse(state, 'Scan the place first, so that the stock is right.', `You want ${stop.placeCode}.`);
  const lot = p.type === 'product' ? wrongLot(stop, p, scan) : null;
  if (lot) return refuse(state, lot, nextHint(state));
  return take(state, stop, units(stop)!, scan);
}

function goTo(state: PickState, at: number): PickStep {
  const next: PickState = { ...state, at, placeSeen: null, seen: false };
  const { product, placeCode } = state.stops[at]!;
  return {
    state: next,
    answer: {
      kind: 'moved',
      tone: 'info',
      says: `${product.name} is wanted at ${placeCode}.`,
      next: nextHint(next),
    },
    effects: [],
  };
}

/** Why a piece's own lot or expiry forbids it: expired, or not the lot that was chosen. */
function wrongLot(stop: PickStop, p: Extract<Parsed, { type: 'product' }>, scan: Scan): string | null {
  if (p.expiry && p.expiry <= scan.at.slice(0, 10))
    return `This piece expired on ${p.expiry}. Set it aside; it must not leave.`;
  if (p.lot && stop.lot && p.lot.toUpperCase() !== stop.lot.code)
    return `Wrong lot: this is ${p.lot}, and ${stop.lot.code} goes first${stop.lot.expiry ? ` (expires ${stop.lot.expiry})` : ''}.`;
  return null;
}

function several(state: PickState, stop: PickStop, n: number): PickStep {
  if (n === 0)
    return refuse(state, 'Nothing is not a quantity. If none is there, say "Not enough".', nextHint(state));
  if (state.placeSeen !== stop.placeCode || !state.seen)
    return refuse(
      state,
      'Scan one piece first, so that it is surely the right product; then type how many more.',
      nextHint(state),
    );
  return take(state, stop, n);
}

function take(state: PickState, stop: PickStop, units: number, scan?: Scan): PickStep {
  const open = stopOpen(stop);
  if (units > open) {
    const pack = scan && units > 1 ? `That code counts ${units}. ` : '';
    return refuse(
      state,
      `${pack}Too many: ${open === 0 ? 'none is' : `only ${open} ${open === 1 ? 'is' : 'are'}`} wanted here.`,
      nextHint(state),
    );
  }
  return change({ ...state, seen: true }, state.at, { taken: units, missing: 0 });
}

/** Applies taken or missing units to a stop, remembers them for undo and walks on when the stop is done. */
function change(state: PickState, at: number, by: { taken: number; missing: number }): PickStep {
  const stop = state.stops[at]!;
  const after: PickStop = { ...stop, taken: stop.taken + by.taken, missing: stop.missing + by.missing };
  const stops = state.stops.with(at, after);
  let next: PickState = {
    ...state,
    stops,
    history: [...state.history, { stop: at, units: by.taken, missing: by.missing }],
  };
  const effects: PickEffect[] = [];
  if (by.taken) effects.push({ type: 'take', stopId: stop.id, units: by.taken });
  if (by.missing) effects.push({ type: 'missing', stopId: stop.id, units: by.missing });
  if (stopOpen(after) === 0) next = walkOn(next);
  return { state: next, answer: changed(next, after, by), effects };
}

/** The next open stop after `at`, else the first open one anywhere; stays when all are done. The place stays seen while it is the same. */
function walkOn(state: PickState): PickState {
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

function changed(state: PickState, stop: PickStop, by: { taken: number; missing: number }): Answer {
  if (pickDone(state)) {
    const missing = state.stops.reduce((n, s) => n + s.missing, 0);
    return {
      kind: 'complete',
      tone: 'complete',
      says: missing ? `List complete, ${count(missing, 'piece')} not found.` : 'List complete.',
      next: 'Bring the totes to the benches.',
    };
  }
  if (by.missing)
    return {
      kind: 'counted',
      tone: 'info',
      says: `Noted: ${count(by.missing, 'piece')} of ${stop.product.name} not there.`,
      next: nextHint(state),
    };
  const open = stopOpen(stop);
  const all = stop.wanted === 1 ? 'Right, that is it.' : `Right, that is all ${stop.wanted}.`;
  const says = open === 0 ? all : `Right. ${open} more.`;
  return { kind: 'counted', tone: open === 0 ? 'complete' : 'right', says, next: nextHint(state) };
}

function command(state: PickState, name: string): PickStep {
  const stop = state.stops[state.at];
  if (name === 'UNDO') return undo(state);
  if (!stop || pickDone(state))
    return refuse(state, `${state.listNo} is complete.`, 'Bring the totes to the benches.');
  if (name === 'ALL') {
    if (state.placeSeen !== stop.placeCode || !state.seen)
      return refuse(state, 'Scan one piece first, so that it is surely the right product.', nextHint(state));
    return take(state, stop, stopOpen(stop));
  }
  if (name === 'SHORT') {
    if (state.placeSeen !== stop.placeCode)
      return refuse(
        state,
        'Scan the place first: a shortage is told of the place you stand at.',
        `You want ${stop.placeCode}.`,
      );
    return change(state, state.at, { taken: 0, missing: stopOpen(stop) });
  }
  if (name === 'SKIP') {
    const next = walkOn(state);
    return {
      state: next,
      answer: {
        kind: 'moved',
        tone: 'info',
        says: `${stop.placeCode} is left for later.`,
        next: nextHint(next),
      },
      effects: [],
    };
  }
  return refuse(state, `"${name.toLowerCase()}" does nothing while picking.`, nextHint(state));
}

function undo(state: PickState): PickStep {
  const last = state.history.at(-1);
  if (!last) return refuse(state, 'There is nothing to undo on this list.', nextHint(state));
  const stop = state.stops[last.stop]!;
  const stops = state.stops.with(last.stop, {
    ...stop,
    taken: stop.taken - last.units,
    missing: stop.missing - last.missing,
  });
  const next: PickState = {
    ...state,
    stops,
    at: last.stop,
    placeSeen: stop.placeCode,
    seen: true,
    history: state.history.slice(0, -1),
  };
  const effects: PickEffect[] = [];
  if (last.units) effects.push({ type: 'take', stopId: stop.id, units: -last.units });
  if (last.missing) effects.push({ type: 'missing', stopId: stop.id, units: -last.missing });
  const what = last.units
    ? `${count(last.units, 'piece')} of ${stop.product.name} put back`
    : `${stop.product.name} is wanted again`;
  return {
    state: next,
    answer: { kind: 'undone', tone: 'info', says: `Undone: ${what}.`, next: nextHint(next) },
    effects,
  };
}
