import type { FloorIn, FloorView } from '@auk/contract';
import { type LayoutProblem, layoutProblems, parseDistance } from '@auk/core';
import { layoutOf } from './layout.js';

/** A way as it is typed: an aisle at an x, or a cross aisle at a y, from here to there. */
export interface WayDraft {
  cross: boolean;
  code: string;
  at: string;
  from: string;
  to: string;
}

/** The floor as it is typed. */
export interface FloorDraft {
  ways: WayDraft[];
  start: { way: string; along: string };
  end: { way: string; along: string };
}

const METRE = 10_000;
const metres = (text: string): number => {
  const read = parseDistance(text);
  return read.ok ? read.value / METRE : 0;
};

export const draftOf = (floor: FloorView): FloorDraft => ({
  ways: [
    ...floor.aisles.map(a => ({
      cross: false,
      code: a.code,
      at: String(a.x),
      from: String(a.from),
      to: String(a.to),
    })),
    ...floor.crossAisles.map(c => ({
      cross: true,
      code: c.code,
      at: String(c.y),
      from: String(c.from),
      to: String(c.to),
    })),
  ],
  start: { way: floor.start.way, along: String(floor.start.along) },
  end: { way: floor.end.way, along: String(floor.end.along) },
});

/** The floor that a draft means; what cannot be read counts as nothing, and is named by `wrongOf`. */
export function floorOf(draft: FloorDraft): FloorIn {
  const ways = draft.ways.map(w => ({
    ...w,
    code: w.code.trim().toUpperCase(),
    at: metres(w.at),
    from: metres(w.from),
    to: metres(w.to),
  }));
  const spot = (s: FloorDraft['start']) => ({ way: s.way, along: Math.max(0, metres(s.along)) });
  return {
    aisles: ways.filter(w => !w.cross).map(({ code, at, from, to }) => ({ code, x: at, from, to })),
    crossAisles: ways.filter(w => w.cross).map(({ code, at, from, to }) => ({ code, y: at, from, to })),
    start: spot(draft.start),
    end: spot(draft.end),
  };
}

/** Everything that keeps a draft from being walked, in sentences. */
export function wrongOf(draft: FloorDraft): string[] {
  const unread = draft.ways.flatMap(w =>
    [w.at, w.from, w.to].flatMap(text => {
      const read = parseDistance(text);
      return read.ok ? [] : [`“${text}” of ${w.code || 'a way without a code'} ${read.problem}.`];
    }),
  );
  if (draft.ways.some(w => w.code.trim() === '')) unread.push('A way has no code.');
  if (unread.length > 0) return unread;
  return layoutProblems(layoutOf(floorOf(draft))).map((p: LayoutProblem) => `${p.says} ${p.cure}`);
}

/** A further way beside the last of its kind: as far from it as that one is from the one before. */
export function further(ways: readonly WayDraft[], cross: boolean): WayDraft {
  const own = ways.filter(w => w.cross === cross);
  const [before, last] = [own.at(-2), own.at(-1)];
  const step = before && last ? metres(last.at) - metres(before.at) : 4;
  const at = last ? metres(last.at) + step : 0;
  return {
    cross,
    code: '',
    at: String(Math.round(at * 100) / 100),
    from: last?.from ?? '0',
    to: last?.to ?? '20',
  };
}
