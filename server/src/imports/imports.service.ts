import { createHash } from 'node:crypto';
import type { ImportKind, ImportQuery, ImportReport } from '@auk/contract';
import { type FieldSpec, guessColumns, type Mapping, missingFields, plainHeading } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { stringify } from 'csv-stringify/sync';
import { z } from 'zod';
import { Db, type Doer, fromJson, newId } from '../database/db.js';
import { Forbidden, Malformed, NotHere } from '../http/problem.js';
import type { IntakeChannel } from '../intake/intake.module.js';
import type { Importer, Outcome, ReadFile } from './importer.js';
import { badWords } from './importer.js';
import { ListingsImport } from './listingsImport.js';
import { OrdersImport } from './ordersImport.js';
import { PlacesImport } from './placesImport.js';
import { ProductsImport } from './productsImport.js';
import { PurchasesImport } from './purchasesImport.js';
import { RecipesImport } from './recipesImport.js';
import { StockImport } from './stockImport.js';
import { readTable, type Table } from './table.js';

/** Things that a preview shows, and bad cells; counts are always whole. */
const SHOWN = 200;
/** Things taken in one transaction: each is whole, and nobody waits long for the locks. */
const PART = 1_000;
const MappingIn = z.record(z.string().max(40), z.number().int().min(0).max(1_000));

interface Prepared {
  importer: Importer;
  channel: IntakeChannel;
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

/** Files from outside: look first, then take in. */
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
    purchases: PurchasesImport,
  ) {
    this.importers = new Map(
      [orders, products, listings, recipes, stock, places, purchases].map(i => [i.kind as ImportKind, i]),
    );
  }

  /** Looks at a file or takes its good things in. The same file again changes nothing; a mapping that was corrected is remembered for its source. */
  async run(kind: ImportKind, q: ImportQuery, bytes: Buffer, doer: Doer): Promise<ImportReport> {
    const p = await this.prepare(kind, q, bytes);
    if (q.commit === 'yes' && p.missing.length > 0)
      throw new Forbidden(
        `The file has no column for ${p.missing.map(f => f.words).join(', ')}. Its headings are: ${p.headings.slice(0, 20).join(', ').slice(0, 300)}.`,
        'Say which column holds it, or name the columns so that they can be recognised.',
      );
    const commit = q.commit === 'yes' && p.file !== null;
    const outcomes: Outcome[] = [];
    for (let from = 0; p.file && from < p.file.things; from += PART)
      outcomes.push(...(await this.part(p, from, commit, doer)));
    if (commit) await this.keep(p, q, bytes, outcomes, doer);
    return report(kind, q, p, commit, outcomes);
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

  private part(p: Prepared, from: number, commit: boolean, doer: Doer): Promise<Outcome[]> {
    return this.db.tx(doer, async tx => {
      // One file at a time for a channel: two people dropping the same file must not both find it new.
      if (commit && p.importer.ofChannel)
        await tx.one('SELECT id FROM channel WHERE id = ? FOR UPDATE', [p.channel.id]);
      return p.file!.handle(tx, from, from + PART, commit);
    });
  }

  private async prepare(kind: ImportKind, q: ImportQuery, bytes: Buffer): Promise<Prepared> {
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
    const row = await this.db.one<{ mapping: string }>(
      'SELECT mapping FROM importMapping WHERE kind = ? AND source = ?',
      [importer.kind, source],
    );
    if (!row) return null;
    const kept = fromJson<Remembered>(row.mapping);
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

  private async keep(
    p: Prepared,
    q: ImportQuery,
    bytes: Buffer,
    outcomes: Outcome[],
    doer: Doer,
  ): Promise<void> {
    const remembered: Remembered = {
      fields: Object.fromEntries(
        Object.entries(p.mapping).map(([field, at]) => [field, plainHeading(p.headings[at] ?? '')]),
      ),
      headings: p.headings.map(plainHeading),
    };
    await this.db.tx(doer, async tx => {
      await tx.insert('importFile', [
        {
          id: newId(),
          channelId: p.importer.ofChannel ? p.channel.id : null,
          kind: p.importer.kind,
          name: q.name,
          digest: createHash('sha256').update(bytes).digest('hex'),
          at: tx.at,
          personId: tx.personId,
          counts: JSON.stringify(countStates(outcomes)),
        },
      ]);
      await tx.insert(
        'importMapping',
        [
          {
            kind: p.importer.kind,
            source: q.channel,
            mapping: JSON.stringify(remembered),
            at: tx.at,
            personId: tx.personId,
          },
        ],
        'ON DUPLICATE KEY UPDATE mapping = VALUES(mapping), at = VALUES(at), personId = VALUES(personId)',
      );
      await tx.tell(p.importer.kind === 'orders' ? 'orders' : 'catalog', '');
    });
  }

  private async channel(importer: Importer, code: string): Promise<IntakeChannel> {
    const house =
      '(SELECT id FROM warehouse LIMIT 1) AS warehouseId, (SELECT country FROM warehouse LIMIT 1) AS home';
    if (!importer.ofChannel)
      return (await this.db.one<IntakeChannel>(
        `SELECT '' AS id, w.name, w.currency, w.id AS warehouseId, w.country AS home FROM warehouse w LIMIT 1`,
      ))!;
    const channel = await this.db.one<IntakeChannel>(
      `SELECT c.id, c.name, c.currency, ${house} FROM channel c WHERE c.code = ?`,
      [code],
    );
    if (!channel)
      throw new NotHere(`The channel ${code.slice(0, 20)}`, 'Choose one of the channels offered.');
    return channel;
  }
}

const countStates = (outcomes: readonly Outcome[]) => {
  const of = (state: Outcome['state']) => outcomes.filter(o => o.state === state).length;
  return { new: of('new'), changed: of('changed'), same: of('same'), cannotChange: of('cannot change') };
};

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

function report(
  kind: ImportKind,
  q: ImportQuery,
  p: Prepared,
  committed: boolean,
  outcomes: Outcome[],
): ImportReport {
  const stages: Record<string, number> = {};
  for (const o of outcomes) if (o.stage) stages[o.stage] = (stages[o.stage] ?? 0) + 1;
  const order = ['changed', 'cannot change', 'new', 'same'];
  const shown = [...outcomes]
    .sort((a, b) => order.indexOf(a.state) - order.indexOf(b.state) || a.row - b.row)
    .slice(0, SHOWN);
  return {
    kind,
    committed,
    channel: q.channel,
    headings: p.headings,
    fields: p.importer.fields.map(f => ({ field: f.field, words: f.words, required: f.required ?? false })),
    mapping: p.mapping,
    remembered: p.remembered,
    missing: p.missing.map(f => f.words),
    rows: shown.map(({ stage: _, ...o }) => o),
    counts: {
      ...countStates(outcomes),
      badRows: new Set(p.file?.bad.map(b => b.row) ?? []).size,
      leftOut: p.file?.leftOut.length ?? 0,
      lines: p.file?.lines ?? 0,
    },
    bad: (p.file?.bad ?? []).slice(0, SHOWN),
    stages,
  };
}
