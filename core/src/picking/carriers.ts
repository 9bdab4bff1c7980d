import { type KnownThing, refuse } from '../scans/scan.js';
import { count } from '../text.js';
import { type Carrier, nextHint, orderOfTote, type PickState, type PickStep, totesOf } from './pickState.js';

type KnownCarrier = NonNullable<KnownThing['carrier']>;

/**
 * A trolley or tote is scanned onto the list. What a device cannot know (whether it is there, and free) it asks; the judge knows, and
 * says so in `known`.
 */
export function carrierScan(state: PickState, code: string, known: KnownThing | null | undefined): PickStep {
  const own = totesOf(state).find(t => t.code === code);
  if (own) return ownTote(state, own);
  if (state.trolley?.code === code) return said(state, `${state.trolley.mark} carries ${state.listNo}.`);
  if (!state.heap && state.history.length > 0 && !code.startsWith('TR-'))
    return refuse(state, `${code} is not a tote of this list.`, nextHint(state));
  const found = known?.carrier;
  if (!found && known !== undefined) return refuse(state, `Nothing here is called ${code}.`, nextHint(state));
  if (!found)
    return {
      state,
      answer: {
        kind: 'unknown',
        tone: 'info',
        says: `${code} is looked up.`,
        next: 'Wait a moment, or go on.',
      },
      effects: [],
    };
  if (found.holds) return refuse(state, `${code} has ${found.holds}; take another.`, nextHint(state));
  if (state.heap) return heapOnto(state, found);
  return known.kind === 'trolley' ? ontoTrolley(state, found) : bringTote(state, found);
}

/** A tote of the list: brought now, or confirmed after a stop. */
function ownTote(state: PickState, tote: Carrier): PickStep {
  if (!tote.seen && state.history.length === 0)
    return said(
      withTote(state, tote, { ...tote, seen: true }),
      `${tote.mark} is for ${orderOfTote(state, tote)}.`,
    );
  const stop = state.stops[state.at];
  if (stop?.tote && stop.tote.id !== tote.id)
    return refuse(state, `Wrong tote: this goes into ${stop.tote.mark}.`, nextHint(state));
  return said(state, `Right tote, ${tote.mark}.`);
}

/** A free tote takes the place of the next one that the list was given. */
function bringTote(state: PickState, known: KnownCarrier): PickStep {
  const next = totesOf(state).find(t => !t.seen);
  if (!next)
    return refuse(
      state,
      `Every order of ${state.listNo} has its tote; ${known.mark} is not needed.`,
      nextHint(state),
    );
  const tote = { ...carrierOf(known), seen: true };
  const step = said(withTote(state, next, tote), `${tote.mark} is for ${orderOfTote(state, next)}.`);
  return { ...step, effects: [{ type: 'tote', from: next.id, to: tote.id }] };
}

function ontoTrolley(state: PickState, known: KnownCarrier): PickStep {
  const totes = totesOf(state).length;
  if (known.most !== undefined && totes > known.most)
    return refuse(
      state,
      `${known.mark} carries ${count(known.most, 'tote')}, and ${state.listNo} fills ${totes}.`,
      'Scan a larger trolley.',
    );
  const step = said({ ...state, trolley: carrierOf(known) }, `${known.mark} carries ${state.listNo}.`);
  return { ...step, effects: [{ type: 'trolley', placeId: known.id }] };
}

/** A heap goes on on another carrier between two stops, not within one. */
function heapOnto(state: PickState, known: KnownCarrier): PickStep {
  const begun = state.stops.find(s => s.taken > 0 && s.taken + s.missing < s.wanted);
  if (begun)
    return refuse(
      state,
      `${begun.product.name} is begun on ${state.trolley!.mark}.`,
      `Take what is left of it first; then scan ${known.mark}.`,
    );
  return ontoTrolley(state, known);
}

const carrierOf = ({ holds: _, most: __, ...carrier }: KnownCarrier): Carrier => carrier;

function withTote(state: PickState, from: Carrier, to: Carrier): PickState {
  return { ...state, stops: state.stops.map(s => (s.tote?.id === from.id ? { ...s, tote: to } : s)) };
}

function said(state: PickState, says: string): PickStep {
  return { state, answer: { kind: 'moved', tone: 'right', says, next: nextHint(state) }, effects: [] };
}
