import type { SortBy } from './filter.queries.js';

/** What a row is sorted by. */
export interface Key {
  id: string;
  no: number;
  key: Date | string | number | null;
}

/** What a cursor stands for, as a key to compare with. */
export function keyOf(sort: SortBy, c: Cursor): Key {
  const value = c.key === null ? null : sort.column === 'totalMinor' ? Number(c.key) : String(c.key);
  const key = sort.column === 'no' ? c.no : value;
  const isMoment = sort.column === 'leavesAt' || sort.column === 'placedAt';
  return {
    id: '',
    no: c.no,
    key: isMoment && key !== null ? new Date(`${String(key).replace(' ', 'T')}Z`) : key,
  };
}

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
  key: string | number | null;
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
  const no = Number(text.slice(at + 1)) || 0;
  if (at === -1) return { no, key: null, empty: false };
  const key = text.slice(0, at);
  const moment = /^\d{4}-\d{2}-\d{2}T/.test(key) ? key.replace('T', ' ').replace('Z', '') : key;
  return { no, key: moment === '' ? null : moment, empty: at === 0 };
}
