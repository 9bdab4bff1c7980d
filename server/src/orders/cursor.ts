import type { SortBy } from './filter.queries.js';

/** What a row is sorted by. */
export interface Key {
  id: string;
  no: number;
  key: Date | string | number | null;
}

/** What a cursor stands for, as a key to compare with; what no row can have stands for no value. */
export function keyOf(sort: SortBy, { no, key }: Cursor): Key {
  if (sort.column === 'no') return { id: '', no, key: no };
  if (key === null || sort.column === 'promised') return { id: '', no, key };
  if (sort.column === 'totalMinor') return { id: '', no, key: wholeNumber(key) };
  const moment = new Date(`${key.replace(' ', 'T')}Z`);
  return { id: '', no, key: Number.isNaN(moment.getTime()) ? null : moment };
}

const wholeNumber = (text: string): number | null => {
  const n = Number(text);
  return Number.isSafeInteger(n) ? n : null;
};

/** The order of a sort: by its column, empties last, then by number, all in the sort's direction. */
export function byKey(sort: SortBy): (a: Key, b: Key) => number {
  const way = sort.down ? -1 : 1;
  return (a, b) => {
    if ((a.key === null) !== (b.key === null)) return a.key === null ? 1 : -1;
    const less = a.key !== null && b.key !== null && +(a.key > b.key) - +(a.key < b.key);
    return way * (less || a.no - b.no);
  };
}

/** Where a page of the list begins. */
export interface Cursor {
  no: number;
  key: string | null;
  empty: boolean;
}

/** Where a page ends: the sort's value and the order's number; times as milliseconds. */
export function cursorOf(sort: SortBy, row: { no: number; key: unknown }): string {
  if (sort.column === 'no') return String(row.no);
  const key = row.key instanceof Date ? row.key.toISOString() : row.key;
  return key === null ? `~${row.no}` : `${key}~${row.no}`;
}

/** Reads what `cursorOf` wrote. */
export function readCursor(text: string): Cursor {
  const at = text.lastIndexOf('~');
  const no = wholeNumber(text.slice(at + 1)) ?? 0;
  if (at === -1) return { no, key: null, empty: false };
  const key = text.slice(0, at);
  const moment = /^\d{4}-\d{2}-\d{2}T/.test(key) ? key.replace('T', ' ').replace('Z', '') : key;
  return { no, key: moment === '' ? null : moment, empty: at === 0 };
}
