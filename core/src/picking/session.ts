import { type Parsed, parseScan } from '../barcode/parseScan.js';
import { type Answer, refuse, type Scan } from '../scans/scan.js';
import { count, quoted } from '../text.js';
import { carrierScan } from './carriers.js';
import { pickNews } from './pickNews.js';
import {
  bringIt,
  nextHint,
  type PickEffect,
  type PickScan,
  type PickState,
  type PickStep,
  type PickStop,
  pickDone,
  stopOpen,
  totesOf,
  toteToBring,
  walkOn,
} from './pickState.js';

/**
 * Answers one scan while picking: places, products, trolleys and totes, a typed number, and the commands ALL, SHORT, SKIP, UNDO, YES;
 * or news of the house.
 */
export function pickScan(state: PickState, scan: PickScan): PickStep {
  if (scan.news) return pickNews(state, scan.news);
  const parsed = parseScan(scan.text, Number(scan.at.slice(0, 4)));
  if (!parsed.ok) return refuse(state, parsed.problem, nextHint(state));
  const p = parsed.value;
  if (p.type === 'command' && p.name === 'UNDO') return undo(state);
  if (state.pause) return paused(state, p, scan);
  const stop = state.stops[state.at];
  if (!stop || pickDone(state)) return afterAll(state, p, scan);
  if (p.type === 'command') return command(state, stop, p.name);
  if (p.type === 'own' && (p.kind === 'tote' || p.kind === 'trolley'))
    return carrierScan(state, p.code, scan.known);
  const bare = carriersFirst(state);
  if (bare) return bare;
  const code = scan.text.trim().toUpperCase();
  if (scan.known?.kind === 'place' || state.stops.some(s => s.placeCode === code)) return place(state, code);
  if (p.type === 'quantity') return several(state, stop, p.n);
  return product(state, stop, p, scan);
}

/** The list is complete: all that is left is to drop it at a staging place. */
function afterAll(state: PickState, p: Parsed, scan: Scan): PickStep {
  const code = scan.text.trim().toUpperCase();
  if (scan.known?.kind === 'staging') {
    const aside = state.held.length > 0 ? ` Set aside: ${state.held.join(', ')}.` : '';
    return {
      state: { ...state, dropped: code },
      answer: {
        kind: 'complete',
        tone: 'complete',
        says: `${state.listNo} stands at ${code}.${aside}`,
        next: 'The benches see it there.',
      },
      effects: [{ type: 'drop', code }],
    };
  }
  // Only the house knows which places are for staging; what is of this list is none.
  const ours = state.stops.some(s => s.placeCode === code || s.product.codes.some(c => c.code === code));
  if (p.type === 'text' && scan.known === undefined && !ours)
    return {
      state,
      answer: {
        kind: 'unknown',
        tone: 'info',
        says: `${quoted(code)} is looked up.`,
        next: 'Wait a moment.',
      },
      effects: [],
    };
  return refuse(state, `${state.listNo} is complete; nothing more is taken.`, bringIt(state));
}

/** Nothing is taken before there is something to lay it into. */
function carriersFirst(state: PickState): PickStep | null {
  if (state.heap && !state.trolley)
    return refuse(
      state,
      'This list is picked as one heap and has nothing to lie on yet.',
      'Scan a trolley or a tote; all goods of the list go onto it.',
    );
  const bring = toteToBring(state);
  return bring && refuse(state, `${bring.mark} is not brought yet.`, nextHint(state));
}

/** Something must be said first: into which tote the last stop went, or that the picker goes on. */
function paused(state: PickState, p: Parsed, scan: Scan): PickStep {
  const pause = state.pause!;
  const on = { ...state, pause: null };
  if (pause.for === 'order') {
    // Where the picker goes next is theirs to choose: a place says it as well as "yes" does.
    const goes = p.type === 'command' ? p.name === 'YES' : state.choices.afterOrder === 'choose';
    if (!goes) return refuse(state, `${pause.orderNo} is whole.`, nextHint(state));
    return p.type === 'command' ? said(on, `On with ${on.listNo}.`) : pickScan(on, scan);
  }
  const tote = state.stops[pause.stop]!.tote!;
  if (p.type !== 'own' || p.kind !== 'tote')
    return refuse(state, `First say into which tote it went: ${tote.mark}.`, nextHint(state));
  if (p.code !== tote.code) return refuse(state, `Wrong tote: this goes into ${tote.mark}.`, nextHint(state));
  const next = wholeOrder(on, state.stops[pause.stop]!) ?? walkOn(on);
  const done = pickDone(next);
  return {
    state: next,
    answer: done
      ? complete(next)
      : { kind: 'moved', tone: 'right', says: `Right tote, ${tote.mark}.`, next: nextHint(next) },
    effects: [],
  };
}

function said(state: PickState, says: string): PickStep {
  return { state, answer: { kind: 'moved', tone: 'right', says, next: nextHint(state) }, effects: [] };
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
    const refused = refuse<PickState, PickEffect>(
      state,
      what ? `Wrong product: this is ${what}.` : `Nothing on this list has the code ${quoted(code)}.`,
      `You want ${stop.product.name}.`,
    );
    // Taken for the other at its place: the lead is told which two look alike.
    const sku = state.placeSeen === stop.placeCode ? (done?.product.sku ?? scan.known?.sku) : undefined;
    return sku === undefined ? refused : { ...refused, effects: [{ type: 'mix-up', stopId: stop.id, sku }] };
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
  if (stopOpen(after) === 0) next = leaveStop(next, at, after);
  return { state: next, answer: changed(next, after, by), effects };
}

/** A stop is finished: its tote is confirmed first where the lead wants it, then the walk goes on. */
function leaveStop(state: PickState, at: number, stop: PickStop): PickState {
  const confirm = state.choices.confirmTote && stop.tote && stop.taken > 0 && totesOf(state).length > 1;
  if (confirm) return { ...state, pause: { for: 'tote', stop: at } };
  return wholeOrder(state, stop) ?? walkOn(state);
}

/** The walk pauses where the lead wants a whole order to be said; null where it goes on. */
function wholeOrder(state: PickState, stop: PickStop): PickState | null {
  if (state.choices.afterOrder === 'go on' || !isWhole(state, stop.orderNo) || pickDone(state)) return null;
  return { ...walkOn(state), pause: { for: 'order', orderNo: stop.orderNo } };
}

/** Whether an order is taken as far as it can be; a heap has no orders yet. */
const isWhole = (state: PickState, orderNo: string): boolean =>
  !state.heap && state.stops.every(s => s.orderNo !== orderNo || stopOpen(s) === 0);

function changed(state: PickState, stop: PickStop, by: { taken: number; missing: number }): Answer {
  if (pickDone(state) && !state.pause) return complete(state);
  if (by.missing)
    return {
      kind: 'counted',
      tone: 'info',
      says: `Noted: ${count(by.missing, 'piece')} of ${stop.product.name} not there.`,
      next: nextHint(state),
    };
  const open = stopOpen(stop);
  const all = stop.wanted === 1 ? 'Right, that is it.' : `Right, that is all ${stop.wanted}.`;
  const whole = isWhole(state, stop.orderNo) ? ` ${stop.orderNo} is whole.` : '';
  const says = open === 0 ? `${all}${whole}` : `Right. ${open} more.`;
  return { kind: 'counted', tone: open === 0 ? 'complete' : 'right', says, next: nextHint(state) };
}

function complete(state: PickState): Answer {
  const missing = state.stops.reduce((n, s) => n + s.missing, 0);
  return {
    kind: 'complete',
    tone: 'complete',
    says: missing ? `List complete, ${count(missing, 'piece')} not found.` : 'List complete.',
    next: bringIt(state),
  };
}

function command(state: PickState, stop: PickStop, name: string): PickStep {
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
  // What was missing and is found after all is not fetched elsewhere any more.
  const elsewhere = last.missing > 0 ? state.stops.filter(s => s.instead === stop.id && stopOpen(s) > 0) : [];
  const stops = state.stops
    .with(last.stop, { ...stop, taken: stop.taken - last.units, missing: stop.missing - last.missing })
    .map(s => (elsewhere.includes(s) ? { ...s, wanted: s.taken + s.missing } : s));
  const next: PickState = {
    ...state,
    stops,
    at: last.stop,
    placeSeen: stop.placeCode,
    seen: true,
    pause: null,
    history: state.history.slice(0, -1),
  };
  const effects: PickEffect[] = [];
  if (last.units) effects.push({ type: 'take', stopId: stop.id, units: -last.units });
  for (const s of elsewhere) effects.push({ type: 'give up', stopId: s.id });
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
