import { type DateOrder, dateOrder, isoMoment } from '../days/dates.js';
import { parseAmount } from '../money/money.js';
import { parseDistance, parseWeight, TENTHS } from '../units/units.js';
import type { Mapping } from './columns.js';

/** A cell that cannot be read. `row` counts as a spreadsheet shows it: the heading is row 1. */
export interface BadRow {
  row: number;
  column: string;
  value: string;
  why: string;
}

/** What reading a file gave: the things it holds, each with the row it began on, every bad cell, and all rows that were left out. */
export interface FileRead<T> {
  items: { row: number; item: T }[];
  bad: BadRow[];
  leftOut: number[];
}

/** Reads one row's cells by field, noting what is wrong instead of stopping. */
export class RowReader {
  readonly problems: { field: string; value: string; why: string }[] = [];

  constructor(
    private readonly cells: readonly string[],
    private readonly mapping: Mapping,
    private readonly orders: Map<string, DateOrder>,
  ) {}

  /** True when the file has a column for the field and this row fills it. */
  has(field: string): boolean {
    return this.raw(field) !== '';
  }

  raw(field: string): string {
    const at = this.mapping[field];
    return at === undefined ? '' : (this.cells[at] ?? '').trim();
  }

  say(field: string, why: string): void {
    this.problems.push({ field, value: this.raw(field), why });
  }

  need(...fields: string[]): void {
    for (const f of fields) if (this.raw(f) === '') this.say(f, 'is empty and needed');
  }

  text(field: string, most: number): string {
    const text = this.raw(field);
    if ([...text].length > most) this.say(field, `longer than ${most} characters`);
    return text;
  }

  /** A code as it is kept: in capitals, and what is scanned in its stored form. */
  code(field: string, most: number, kept = (text: string) => text.toUpperCase()): string {
    const code = kept(this.raw(field));
    if ([...code].length > most) this.say(field, `longer than ${most} characters`);
    return code;
  }

  /** A whole number. With three noughts behind a separator it may be one or a thousand, which nobody should guess. */
  whole(field: string, least: number, most: number): number {
    const raw = this.raw(field);
    if (/[.,]000$/.test(raw)) {
      this.say(field, `may be ${raw.slice(0, -4)} or ${raw.slice(0, -4)}000: write it without a separator`);
      return 0;
    }
    const text = raw.replace(/[.,]0+$/, '');
    const n = Number(text);
    if (text !== '' && !(Number.isInteger(n) && /^[+-]?\d+$/.test(text) && n >= least && n <= most))
      this.say(field, `is not a whole number from ${least} to ${most}`);
    return n;
  }

  money(field: string, currency: string): number {
    if (!this.has(field)) return 0;
    const amount = parseAmount(this.raw(field), currency);
    if (!amount.ok) this.say(field, amount.problem);
    else if (amount.value < 0) this.say(field, 'is less than nothing');
    return amount.ok ? amount.value : 0;
  }

  moment(field: string): string | null {
    if (!this.has(field)) return null;
    const iso = isoMoment(this.raw(field), this.orders.get(field));
    if (!iso) this.say(field, 'is not a date such as 2026-11-23, 23.11.2026 or 23 Nov 2026');
    return iso;
  }

  yes(field: string): boolean {
    const text = this.raw(field).toLowerCase();
    if (!['', 'yes', 'y', 'true', '1', 'x', 'no', 'n', 'false', '0'].includes(text))
      this.say(field, 'is not yes or no');
    return ['yes', 'y', 'true', '1', 'x'].includes(text);
  }

  /** Milligrams of a weight with its unit; a bare number counts in `unit`. */
  weight(field: string, unit: string): number | null {
    if (!this.has(field)) return null;
    const read = parseWeight(/[a-z]/i.test(this.raw(field)) ? this.raw(field) : `${this.raw(field)} ${unit}`);
    if (!read.ok) this.say(field, read.problem);
    return read.ok ? read.value : null;
  }

  /** Tenths of a millimetre of a distance on the floor; a bare number counts in metres, and empty is nothing. */
  metres(field: string): number {
    if (!this.has(field)) return 0;
    const read = parseDistance(this.raw(field));
    if (!read.ok) this.say(field, read.problem);
    return read.ok ? read.value : 0;
  }

  /** Tenths of a millimetre of a length with its unit; a bare number counts in `unit`. */
  side(field: string, unit: 'in' | 'cm' | 'mm'): number | null {
    if (!this.has(field)) return null;
    const m = /^(\d+(?:[.,]\d+)?)\s*(mm|cm|in|")?$/i.exec(this.raw(field));
    const per = TENTHS[(m?.[2]?.toLowerCase().replace('"', 'in') ?? unit) as 'in'];
    const tenths = m ? Math.round(Number(m[1]!.replace(',', '.')) * per) : 0;
    if (tenths <= 0 || tenths > 100_000) this.say(field, 'is not a length such as 11.5 in or 30 cm');
    return tenths;
  }
}

/**
 * Reads the rows of a table (heading first) one by one with `read`; empty rows are passed over. A thing with a problem is left out
 * whole: when `keyOf` gives rows a common key, all rows of that key are.
 */
export function readRows<T>(
  rows: readonly (readonly string[])[],
  mapping: Mapping,
  dateFields: readonly string[],
  read: (row: RowReader) => T,
  keyOf: (item: T) => string | null = () => null,
): FileRead<T> {
  const headings = rows[0] ?? [];
  const orders = new Map(
    dateFields
      .filter(f => mapping[f] !== undefined)
      .map(f => [f, dateOrder(rows.slice(1).map(r => r[mapping[f]!] ?? ''))]),
  );
  const bad: BadRow[] = [];
  const found: { row: number; item: T; key: string | null; spoiled: boolean }[] = [];
  rows.slice(1).forEach((cells, i) => {
    if (cells.every(c => c.trim() === '')) return;
    const reader = new RowReader(cells, mapping, orders);
    const item = read(reader);
    for (const p of reader.problems)
      bad.push({
        row: i + 2,
        column: headings[mapping[p.field] ?? -1] ?? p.field,
        value: p.value.slice(0, 80),
        why: p.why,
      });
    found.push({ row: i + 2, item, key: keyOf(item), spoiled: reader.problems.length > 0 });
  });
  const spoiled = new Set(found.filter(f => f.spoiled && f.key).map(f => f.key));
  const out = (f: (typeof found)[number]) => f.spoiled || (f.key !== null && spoiled.has(f.key));
  return {
    items: found.filter(f => !out(f)).map(({ row, item }) => ({ row, item })),
    bad,
    leftOut: found.filter(out).map(f => f.row),
  };
}
