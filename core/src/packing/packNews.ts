import { type PackLine, type PackNews, type PackState, type PackStep, packHint } from './packState.js';

/**
 * What the lines of an order say otherwise than a session knows, each in words: other quantities, lines that went or came, a size or a
 * code that was told since. Empty when nothing changed.
 */
export function whatChanged(state: PackState, lines: readonly PackLine[]): string[] {
  const known = new Map(state.lines.map(l => [l.id, l]));
  const sizeOf = (l: PackLine) => JSON.stringify(l.piece?.size ?? null);
  const says: string[] = [];
  for (const l of lines) {
    const before = known.get(l.id);
    if (before && sizeOf(before) !== sizeOf(l)) says.push(`${l.product.name} was measured`);
    if (before && before.optional !== l.optional)
      says.push(`${l.product.name} ${l.optional ? 'may be left out' : 'must go along'}`);
    if (before && before.apart !== l.apart)
      says.push(
        `${l.product.name} ${l.apart === undefined ? 'goes with the rest' : 'has a parcel of its own'}`,
      );
    if (before && before.product.codes.length !== l.product.codes.length)
      says.push(`${l.product.name} has a code more`);
    if (before?.wanted !== l.wanted)
      says.push(`${l.wanted} × ${l.product.name} instead of ${before?.wanted ?? 0}`);
  }
  for (const l of state.lines)
    if (l.wanted > 0 && !lines.some(n => n.id === l.id)) says.push(`no ${l.product.name} any more`);
  return says;
}

/** Takes in what the house has to say: what the office changed of the order, or a closed parcel that was taken open again. */
export function packNews(state: PackState, news: PackNews): PackStep {
  return news.kind === 'lines' ? changedLines(state, news) : reopened(state, news.parcel);
}

/** The order says something else now. What was scanned stays in; what is not wanted any more must come out. */
function changedLines(
  state: PackState,
  { lines, says, proposed }: Extract<PackNews, { kind: 'lines' }>,
): PackStep {
  const before = new Map(state.lines.map(l => [l.id, l]));
  const kept = lines.map((l): PackLine => {
    const known = before.get(l.id);
    const { apart: _, ...rest } = known ?? l;
    return known
      ? {
          ...rest,
          product: l.product,
          piece: l.piece,
          wanted: l.wanted,
          wants: l.wants,
          optional: l.optional,
          ...(l.apart !== undefined && { apart: l.apart }),
        }
      : l;
  });
  const gone = state.lines
    .filter(l => !lines.some(n => n.id === l.id) && l.packed > 0)
    .map(l => ({ ...l, wanted: 0, leftOut: 0 }));
  const next: PackState = {
    ...state,
    lines: [...kept, ...gone],
    asking: null,
    at: null,
    history: [],
    // Boxes are proposed anew while nothing is in: the parcel at hand is in the first of them.
    ...(proposed && {
      proposed,
      parcels: state.parcels.map(p => ({ ...p, boxCode: proposed[0] ?? null })),
    }),
  };
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
