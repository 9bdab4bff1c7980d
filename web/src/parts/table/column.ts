import type { ReactNode } from 'react';

/** One column of a list of `R`. */
export interface Column<R> {
  id: string;
  /** What stands over it, and what it is called where columns are chosen. */
  head: string;
  cell: (row: R) => ReactNode;
  /** Numbers stand at the right. */
  right?: boolean;
  /** How wide it is beside the others, until a person says otherwise; 10 where nothing is said. */
  width?: number;
  /** Not shown until a person chooses it. */
  hidden?: boolean;
  /** Acts and signs: never hidden, never moved; its head is only read aloud. */
  fixed?: boolean;
}

/** How a person has arranged the columns of a list. */
export interface Arrangement {
  order: string[];
  hidden: string[];
  /** Width of each beside the others. */
  widths: Record<string, number>;
}

const WIDTH = 10;
/** No column becomes narrower than this part of the table. */
const LEAST = 0.03;

/** The arrangement that a list has of itself. */
export function ownArrangement<R>(columns: readonly Column<R>[]): Arrangement {
  const free = columns.filter(c => !c.fixed);
  return {
    order: free.map(c => c.id),
    hidden: free.filter(c => c.hidden).map(c => c.id),
    widths: Object.fromEntries(columns.map(c => [c.id, c.width ?? WIDTH])),
  };
}

/** A kept arrangement over the columns that there are now: forgotten ones go, new ones come last. */
export function arranged<R>(kept: Partial<Arrangement> | null, columns: readonly Column<R>[]): Arrangement {
  const own = ownArrangement(columns);
  if (!kept) return own;
  const known = (kept.order ?? []).filter(id => own.order.includes(id));
  const news = own.order.filter(id => !known.includes(id));
  return {
    order: [...known, ...news],
    hidden: [
      ...(kept.hidden ?? own.hidden).filter(id => own.order.includes(id)),
      ...own.hidden.filter(id => news.includes(id) && !kept.hidden?.includes(id)),
    ],
    widths: { ...own.widths, ...kept.widths },
  };
}

/** The columns that are shown, from left to right: fixed ones keep the side on which they stand. */
export function shownColumns<R>(columns: readonly Column<R>[], a: Arrangement): Column<R>[] {
  const first = columns.findIndex(c => !c.fixed);
  const by = new Map(columns.map(c => [c.id, c]));
  return [
    ...columns.filter((c, i) => c.fixed && i < first),
    ...a.order.filter(id => !a.hidden.includes(id)).map(id => by.get(id)!),
    ...columns.filter((c, i) => c.fixed && i > first),
  ];
}

/** Moves the border between a shown column and its right neighbour by a part of the table's width; both stay visible, all others as they are. */
export function borderMoved<R>(
  shown: readonly Column<R>[],
  a: Arrangement,
  id: string,
  by: number,
): Arrangement {
  const at = shown.findIndex(c => c.id === id);
  const next = shown[at + 1];
  if (at === -1 || !next) return a;
  const all = shown.reduce((sum, c) => sum + a.widths[c.id]!, 0);
  const [left, right, least] = [a.widths[id]!, a.widths[next.id]!, LEAST * all];
  const move = Math.max(least - left, Math.min(by * all, right - least));
  return { ...a, widths: { ...a.widths, [id]: left + move, [next.id]: right - move } };
}
