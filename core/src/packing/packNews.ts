import { type PackNews, type PackState, type PackStep, packHint } from './packState.js';

/** Takes in what the house has to say: what the office changed of the order, or a closed parcel that was taken open again. */
export function packNews(state: PackState, news: PackNews): PackStep {
  return news.kind === 'lines' ? changedLines(state, news) : reopened(state, news.parcel);
}

/** The order says something else now. What was scanned stays in; what is not wanted any more must come out. */
function changedLines(state: PackState, { lines, says }: Extract<PackNews, { kind: 'lines' }>): PackStep {
  const before = new Map(state.lines.map(l => [l.id, l]));
  const kept = lines.map(l => {
    const known = before.get(l.id);
    return known
      ? {
          ...known,
          product: l.product,
          piece: l.piece,
          wanted: l.wanted,
          wants: l.wants,
          optional: l.optional,
        }
      : l;
  });
  const gone = state.lines
    .filter(l => !lines.some(n => n.id === l.id) && l.packed > 0)
    .map(l => ({ ...l, wanted: 0, leftOut: 0 }));
  const next: PackState = { ...state, lines: [...kept, ...gone], asking: null, at: null, history: [] };
  return {
    state: next,
    answer: {
      kind: 'moved',
      tone: 'attention',
      says: `The order was changed: ${says.join(', ')}.`,
      next: packHint(next),
    },
    effects: [],
  };
}

/** A closed parcel is open again: it is the one at hand. */
function reopened(state: PackState, no: number): PackStep {
  const next: PackState = {
    ...state,
    parcels: state.parcels.map(p => (p.no === no ? { ...p, closed: false } : p)),
    history: [],
  };
  return {
    state: next,
    answer: { kind: 'moved', tone: 'attention', says: `Parcel ${no} is open again.`, next: packHint(next) },
    effects: [],
  };
}
