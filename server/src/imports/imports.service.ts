import type { ImportKind, ImportQuery, ImportReport } from '@auk/contract';
import { type FieldSpec, guessColumns, type Mapping, missingFields, plainHeading } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { stringify } from 'csv-stringify/sync';
import { z } from 'zod';
import { Db, type Doer, type Tx } from '../database/db.js';
import { Malformed, NotHere } from '../http/problem.js';
import type { IntakeChannel } from '../intake/intake.module.js';
import { readTable, type Table } from '../reference/table.js';
import type { Importer, ReadFile } from './importer.js';
import { badWords } from './importer.js';
import { ImportMapping } from './importMapping.entity.js';
import { channelWithHouse, houseAsChannel } from './imports.queries.js';
import { LayoutImport } from './layoutImport.js';
import { ListingsImport } from './listingsImport.js';
import { OrdersImport } from './ordersImport.js';
import { PlacesImport } from './placesImport.js';
import { ProductsImport } from './productsImport.js';
import { PurchasesImport } from './purchasesImport.js';
import { RecipesImport } from './recipesImport.js';
import { SHOWN, withMore } from './report.js';
import { SentImport } from './sentImport.js';
import { StockImport } from './stockImport.js';

/** Things taken in one transaction: each is whole, and nobody waits long for the locks. */
export const PART = 1_000;
const MappingIn = z.record(z.string().max(40), z.number().int().min(0).max(1_000));

/** A file read by its columns. */
export interface Prepared {
  importer: Importer;
  channel: IntakeChannel;
  source: string;
  table: Table;
  headings: string[];
  mapping: Mapping;
  remembered: boolean;
  missing: FieldSpec[];
  file: ReadFile | null;
}

/** A mapping as it is remembered: field to heading, and the headings that were there to choose from. */
interface Remembered {
  fields: Record<string, string>;
  headings: string[];
}

/** Files from outside: how they are read, and what each would do. */
@Injectable()
export class ImportsService {
  private readonly importers: Map<ImportKind, Importer>;

  constructor(
    private readonly db: Db,
    orders: OrdersImport,
    products: ProductsImport,
    listings: ListingsImport,
    recipes: RecipesImport,
    stock: StockImport,
    places: PlacesImport,
    layout: LayoutImport,
    purchases: PurchasesImport,
    sent: SentImport,
  ) {
    this.importers = new Map(
      [orders, products, listings, recipes, stock, places, layout, purchases, sent].map(i => [
        i.kind as ImportKind,
        i,
      ]),
    );
  }

  /** Looks at a file and tells what it would do; nothing changes. */
  async look(kind: ImportKind, q: ImportQuery, bytes: Buffer): Promise<ImportReport> {
    const p = await this.prepare(kind, q, bytes);
    let report = begun(p, false);
    for (let from = 0; p.file && from < p.file.things; from += PART) {
      const part = await this.db.tx(NOBODY(), tx => p.file!.handle(tx, from, from + PART, false));
      report = withMore(report, part);
    }
    return report;
  }

  /** The rows that were left out, as a CSV with a column that says why; mended, it can be dropped again. */
  async badRows(kind: ImportKind, q: ImportQuery, bytes: Buffer): Promise<string> {
    const { table, file, headings } = await this.prepare(kind, q, bytes);
    const why = new Map<number, string[]>();
    for (const b of file?.bad ?? []) why.set(b.row, [...(why.get(b.row) ?? []), badWords(b)]);
    const rows = (file?.leftOut ?? []).map(row => {
      const cells = headings.map((_, i) => table[row - 1]![i] ?? '');
      return [...cells, why.get(row)?.join('; ') ?? 'another row of the same order or recipe is bad'];
    });
    return stringify([[...headings, 'Why it was left out'], ...rows], {
      escape_formulas: true,
      record_delimiter: 'windows',
    });
  }

  /** Reads a file by the columns told, remembered or guessed. */
  async prepare(
    kind: ImportKind,
    q: Pick<ImportQuery, 'channel' | 'mapping'>,
    bytes: Buffer,
  ): Promise<Prepared> {
    const importer = this.importers.get(kind)!;
    const channel = await this.channel(importer, q.channel);
    const table = await readTable(bytes);
    const headings = table[0]!.map(h => h.trim());
    const known = await this.remembered(importer, q.channel, headings);
    const mapping = q.mapping
      ? readMapping(q.mapping, importer.fields, headings.length)
      : (known ?? guessColumns(importer.fields, headings));
    const missing = missingFields(importer.fields, mapping);
    return {
      importer,
      channel,
      source: q.channel,
      table,
      headings,
      mapping,
      remembered: !q.mapping && known !== null,
      missing,
      file: missing.length > 0 ? null : importer.read(table, mapping, channel),
    };
  }

  /**
   * The mapping last used for this source, where the file has those headings. Headings that the last file did not have are guessed;
   * a field that was left empty then stays empty.
   */
  private async remembered(importer: Importer, source: string, headings: string[]): Promise<Mapping | null> {
    const row = await this.db.of(ImportMapping).findOneBy({ kind: importer.kind, source });
    if (!row) return null;
    const kept = row.mapping as Remembered;
    const plain = headings.map(plainHeading);
    const mapping: Mapping = {};
    for (const [field, heading] of Object.entries(kept.fields)) {
      const at = plain.indexOf(heading);
      if (at !== -1) mapping[field] = at;
    }
    const taken = new Set(Object.values(mapping));
    for (const [field, at] of Object.entries(guessColumns(importer.fields, headings)))
      if (mapping[field] === undefined && !taken.has(at) && !kept.headings.includes(plain[at]!))
        mapping[field] = at;
    return missingFields(importer.fields, mapping).length > 0 ? null : mapping;
  }

  /** Remembers the columns of a file for the next one of its source. */
  async remember(tx: Tx, p: Prepared): Promise<void> {
    const mapping: Remembered = {
      fields: Object.fromEntries(
        Object.entries(p.mapping).map(([field, at]) => [field, plainHeading(p.headings[at] ?? '')]),
      ),
      headings: p.headings.map(plainHeading),
    };
    await tx.of(ImportMapping).upsert(
      {
        kind: p.importer.kind,
        source: p.source,
        mapping: mapping as never,
        at: tx.at,
        personId: tx.personId,
      },
      ['kind', 'source'],
    );
  }

  private async channel(importer: Importer, code: string): Promise<IntakeChannel> {
    if (!importer.ofChannel) return (await houseAsChannel(this.db))!;
    const channel = await channelWithHouse(this.db, code);
    if (!channel)
      throw new NotHere(`The channel ${code.slice(0, 20)}`, 'Choose one of the channels offered.');
    return channel;
  }
}

const NOBODY = (): Doer => ({ personId: null, at: new Date() });

/** A corrected mapping: fields that there are, columns that there are, each once. */
function readMapping(text: string, fields: readonly FieldSpec[], columns: number): Mapping {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new Malformed('The mapping of columns cannot be read.', 'Choose the columns again.');
  }
  const read = MappingIn.safeParse(json);
  if (!read.success)
    throw new Malformed('The mapping of columns cannot be read.', 'Choose the columns again.');
  const known = Object.entries(read.data).filter(
    ([field, at]) => fields.some(f => f.field === field) && at < columns,
  );
  return Object.fromEntries(known);
}

/** The report of a file of which nothing was looked at yet. */
export function begun(p: Prepared, committed: boolean): ImportReport {
  return {
    kind: p.importer.kind,
    committed,
    channel: p.source,
    headings: p.headings,
    fields: p.importer.fields.map(f => ({ field: f.field, words: f.words, required: f.required ?? false })),
    mapping: p.mapping,
    remembered: p.remembered,
    missing: p.missing.map(f => f.words),
    rows: [],
    counts: {
      new: 0,
      changed: 0,
      same: 0,
      cannotChange: 0,
      badRows: new Set(p.file?.bad.map(b => b.row) ?? []).size,
      leftOut: p.file?.leftOut.length ?? 0,
      lines: p.file?.lines ?? 0,
    },
    bad: (p.file?.bad ?? []).slice(0, SHOWN),
    stages: {},
  };
}
