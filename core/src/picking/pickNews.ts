import { count } from '../text.js';
import {
  nextHint,
  type PickNews,
  type PickState,
  type PickStep,
  type PickStop,
  stopOpen,
} from './pickState.js';

/** Takes in what the house has to say. */
export function pickNews(state: PickState, news: PickNews): PickStep {
  return news.kind === 'stops' ? furtherStops(state, news) : heldOrder(state, news);
}

/** An order was stopped, parked or cancelled while it is picked: the picker is told once, with the tote it lies in. */
function heldOrder(state: PickState, { orderNo, stage }: Extract<PickNews, { kind: 'held' }>): PickStep {
  const { tote } = state.stops.find(s => s.orderNo === orderNo)!;
  const next = { ...state, held: [...state.held, orderNo] };
  return {
    state: next,
    answer: {
      kind: 'moved',
      tone: 'info',
      says: `${orderNo} is ${stage} now and must not go${tote ? `: it lies in ${tote.mark}` : ''}.`,
      next: nextHint(next),
    },
    effects: [],
  };
}

/**
 * The house tells a walk under way of further stops: other places of what was missing. They are put before the stop named, so that the
 * walk stays short; the stop at hand stays at hand while something of it is open.
 */
function furtherStops(state: PickState, news: Extract<PickNews, { kind: 'stops' }>): PickStep {
  const before = state.stops.findIndex(s => s.id === news.before);
  const where = before === -1 ? state.stops.length : before;
  const shift = (i: number) => (i >= where ? i + news.stops.length : i);
  const stops = [...state.stops.slice(0, where), ...news.stops, ...state.stops.slice(where)];
  const begun = state.placeSeen !== null && stopOpen(state.stops[state.at]!) > 0;
  const next: PickState = {
    ...state,
    stops,
    at: begun ? shift(state.at) : firstOpen(stops, Math.min(state.at, where)),
    placeSeen: begun ? state.placeSeen : null,
    history: state.history.map(h => ({ ...h, stop: shift(h.stop) })),
    pause: state.pause?.for === 'tote' ? { ...state.pause, stop: shift(state.pause.stop) } : state.pause,
  };
  const units = news.stops.reduce((n, s) => n + s.wanted, 0);
  const places = [...new Set(news.stops.map(s => s.placeCode))].join(' and ');
  const { product } = news.stops[0]!;
  return {
    state: next,
    answer: {
      kind: 'moved',
      tone: 'info',
      says: `${count(units, 'piece')} of ${product.name} ${units === 1 ? 'lies' : 'lie'} at ${places} too; that is on your walk now.`,
      next: nextHint(next),
    },
    effects: [],
  };
}

function firstOpen(stops: readonly PickStop[], from: number): number {
  const later = stops.findIndex((s, i) => i >= from && stopOpen(s) > 0);
  return later === -1 ? stops.findIndex(s => stopOpen(s) > 0) : later;
}
