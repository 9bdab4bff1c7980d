import { type Aisle, type CrossAisle, type Layout, layoutProblems, type Spot } from '../picking/layout.js';
import type { FieldSpec, Mapping } from './columns.js';
import { type FileRead, type RowReader, readRows } from './rowReader.js';

/** Something of a floor file: the floor itself (all its aisles, cross aisles, start and end together), or where one place stands. */
export type LayoutThing =
  | { type: 'floor'; layout: Layout }
  | {
      type: 'place';
      code: string;
      aisle: string;
      along: number;
      side: 'left' | 'right' | null;
      area: string | null;
    };

/** Fields that a file of the floor can fill; lengths are in metres unless they say ft, cm or in. */
export const LAYOUT_FIELDS: readonly FieldSpec[] = [
  { field: 'kind', words: 'kind', headings: ['kind', 'type', 'what'], required: true },
  { field: 'code', words: 'code', headings: ['code', 'name', 'place', 'location'] },
  { field: 'x', words: 'x of an aisle', headings: ['x', 'across'] },
  { field: 'y', words: 'y of a cross aisle', headings: ['y', 'deep'] },
  { field: 'from', words: 'begins at', headings: ['from', 'begins', 'start'] },
  { field: 'to', words: 'ends at', headings: ['to', 'ends', 'end'] },
  { field: 'aisle', words: 'on aisle', headings: ['aisle', 'on', 'way'] },
  { field: 'along', words: 'along it', headings: ['along', 'distance', 'position'] },
  { field: 'side', words: 'side', headings: ['side'] },
  { field: 'area', words: 'area', headings: ['area', 'zone'] },
];

type Row =
  | ({ kind: 'aisle' } & Aisle)
  | ({ kind: 'cross' } & CrossAisle)
  | { kind: 'start' | 'end'; way: string; along: number }
  | ({ kind: 'place' } & Omit<Extract<LayoutThing, { type: 'place' }>, 'type'>)
  | { kind: 'unknown' };

/**
 * Reads a file of the floor (heading first). Each row is an aisle (x, begins, ends), a cross aisle (y, begins, ends), the start or the
 * end of walks (on which way, how far along it), or a place (on which aisle, how far along it, its side, its area). Without a start,
 * walks begin where the first cross aisle does; without an end, they end where they began. What keeps the floor from being walked is
 * said of the row concerned, and then the floor and all its places are left out.
 */
export function readLayoutFile(
  rows: readonly (readonly string[])[],
  mapping: Mapping,
): FileRead<LayoutThing> {
  const read = readRows(rows, mapping, [], readRow);
  const of = <K extends Row['kind']>(kind: K) =>
    read.items.filter((i): i is { row: number; item: Extract<Row, { kind: K }> } => i.item.kind === kind);
  const [aisles, cross] = [of('aisle'), of('cross')];
  const places = of('place').map(({ row, item: { kind: _, ...place } }) => ({
    row,
    item: { type: 'place', ...place } as LayoutThing,
  }));
  if (aisles.length + cross.length === 0) return { ...read, items: places };
  const layout = floorOf(
    aisles.map(a => a.item),
    cross.map(c => c.item),
    of('start')[0]?.item ?? null,
    of('end')[0]?.item ?? null,
  );
  const rowOf = (code: string) =>
    [...aisles, ...cross].find(w => w.item.code === code)?.row ?? of('start')[0]?.row ?? aisles[0]?.row ?? 2;
  const bad = layoutProblems(layout).map(p => ({
    row: rowOf(p.of),
    column: 'floor',
    value: p.of,
    why: `${p.says} ${p.cure}`,
  }));
  const torn = bad.length > 0 || read.leftOut.length > 0;
  const all = read.items.map(i => i.row);
  if (torn) return { items: [], bad: [...read.bad, ...bad], leftOut: [...read.leftOut, ...all] };
  return {
    items: [{ row: aisles[0]!.row, item: { type: 'floor', layout } }, ...places],
    bad: [],
    leftOut: [],
  };
}

function readRow(r: RowReader): Row {
  const kind = r
    .raw('kind')
    .toLowerCase()
    .replace(/[^a-z]/g, '');
  const code = r.code('code', 20);
  if (kind === 'aisle') {
    r.need('code', 'x', 'from', 'to');
    return { kind, code, x: r.metres('x'), from: r.metres('from'), to: r.metres('to') };
  }
  if (kind === 'cross' || kind === 'crossaisle') {
    r.need('code', 'y', 'from', 'to');
    return { kind: 'cross', code, y: r.metres('y'), from: r.metres('from'), to: r.metres('to') };
  }
  const [way, along] = [r.raw('aisle').toUpperCase(), r.metres('along')];
  if (kind === 'start' || kind === 'end') {
    r.need('aisle', 'along');
    return { kind, way, along };
  }
  if (kind === 'place') {
    r.need('code', 'aisle', 'along');
    const side = r.raw('side').toLowerCase();
    if (!['', 'left', 'right', 'l', 'r'].includes(side)) r.say('side', 'is not left or right');
    const named = side === '' ? null : side.startsWith('l') ? 'left' : 'right';
    return { kind, code, aisle: way, along, side: named, area: r.has('area') ? r.text('area', 20) : null };
  }
  r.say('kind', 'is not aisle, cross aisle, start, end or place');
  return { kind: 'unknown' };
}

function floorOf(
  aisles: readonly Aisle[],
  cross: readonly CrossAisle[],
  start: { way: string; along: number } | null,
  end: { way: string; along: number } | null,
): Layout {
  const bare = <W extends Aisle | CrossAisle>({ kind: _, ...way }: W & { kind?: string }) => way;
  const layout = { aisles: aisles.map(bare), crossAisles: cross.map(bare) } as Pick<
    Layout,
    'aisles' | 'crossAisles'
  >;
  const from = start ? spotOn(layout, start.way, start.along) : { cross: 0, along: 0 };
  return { ...layout, start: from, end: end ? spotOn(layout, end.way, end.along) : from };
}

/** A spot by the code of its way; of a way that is not there, one that lies nowhere. */
export function spotOn(layout: Pick<Layout, 'aisles' | 'crossAisles'>, way: string, along: number): Spot {
  const aisle = layout.aisles.findIndex(a => a.code === way);
  return aisle !== -1
    ? { aisle, along }
    : { cross: layout.crossAisles.findIndex(c => c.code === way), along };
}
