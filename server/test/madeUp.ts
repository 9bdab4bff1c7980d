import { IMPORT_KINDS, UNIT_LABEL_FORMS } from '@auk/contract';
import {
  type FieldSpec,
  LAYOUT_FIELDS,
  LISTING_FIELDS,
  ORDER_FIELDS,
  PLACE_FIELDS,
  PRODUCT_FIELDS,
  PURCHASE_FIELDS,
  RECIPE_FIELDS,
  remembered,
  SENT_FIELDS,
  STOCK_FIELDS,
} from '@auk/core';
import fc from 'fast-check';
import { v7 } from 'uuid';
import type { JsonSchema, Operation } from '../src/docs/docs.module.js';
import type { House } from './house.js';

/** What exists in a house, by the name of the column that holds it: what requests that are made up ask for. */
export type Pools = Map<string, string[]>;

/** Values of every short column of texts and numbers of papers: some of each, so that requests find something. */
export async function poolsOf(house: House): Promise<Pools> {
  const columns = await house.db.rows<{ t: string; c: string }>(
    `SELECT TABLE_NAME AS t, COLUMN_NAME AS c FROM information_schema.COLUMNS
     WHERE TABLE_SCHEMA = DATABASE() AND COLUMN_NAME IN ('id', 'no', 'sku', 'code', 'name', 'tracking', 'token', 'version', 'network')`,
  );
  const pools: Pools = new Map();
  for (const { t, c } of columns) {
    const rows = await house.db.rows<{ v: unknown }>(
      `SELECT \`${c}\` AS v FROM \`${t}\` WHERE \`${c}\` IS NOT NULL ORDER BY RAND(15) LIMIT 12`,
    );
    const values = rows.map(r => String(r.v)).filter(v => v.length < 80);
    pools.set(`${t}.${c}`, values);
    pools.set(c, [...(pools.get(c) ?? []), ...values]);
  }
  const buttons = await house.db.rows<{ code: string }>(
    "SELECT DISTINCT REGEXP_SUBSTR(book, 'RB-[0-9]+') AS code FROM ruleBook",
  );
  pools.set(
    'ruleButton.code',
    buttons.map(b => b.code),
  );
  const templates = ['mailTemplate.id', 'parcelTemplate.id', 'paperTemplate.id'];
  pools.set(
    'template.id',
    templates.flatMap(t => pools.get(t) ?? []),
  );
  return pools;
}

/** What stands in a path after a word: a column of a table, with the letters that papers have before their number. */
const AFTER: Record<string, [column: string, letters?: string]> = {
  accounts: ['carrierAccount.id'],
  alerts: ['alertWish.id'],
  batches: ['labelBatch.id'],
  benches: ['bench.id'],
  bills: ['carrierBill.id'],
  brands: ['channel.code'],
  builds: ['build.no', 'BU'],
  buttons: ['ruleButton.code'],
  carriers: ['carrier.code'],
  centers: ['inboundShipment.network'],
  channels: ['channel.code'],
  claims: ['refundClaim.id'],
  closed: ['carrierClosed.id'],
  collections: ['carrier.code'],
  departures: ['departure.no', 'DE'],
  differences: ['inboundDifference.id'],
  'dry-runs': ['dryRun.id'],
  inbound: ['inboundShipment.no', 'IN'],
  jobs: ['job.id'],
  kits: ['recipe.sku'],
  ledger: ['product.sku'],
  lists: ['pickList.no', 'PL'],
  mails: ['mail.id'],
  measures: ['measured.id'],
  notes: ['orderNote.id'],
  orders: ['orders.id'],
  parcels: ['parcel.no', 'PA'],
  parts: ['inboundPart.id'],
  people: ['person.id'],
  photos: ['orderPhoto.id'],
  pictures: ['pictureFile.id'],
  pieces: ['returnedPiece.id'],
  places: ['place.code'],
  plans: ['pickPlan.id'],
  products: ['product.sku'],
  purchases: ['purchaseOrder.no', 'PO'],
  questions: ['keptQuestion.id'],
  receiving: ['purchaseOrder.no', 'PO'],
  runs: ['importFile.id'],
  services: ['carrierService.code'],
  sessions: ['scanSession.id'],
  sheets: ['rateSheet.id'],
  templates: ['template.id'],
  tray: ['printJob.id'],
  versions: ['ruleBook.no'],
  walls: ['place.code'],
};

/** What stands in a path where only a few words may. */
const WORDS: Record<string, readonly string[]> = {
  imports: IMPORT_KINDS,
  exports: ['orders', 'products', 'listings', 'parcels'],
  advice: ['xml', 'edi', 'csv', 'json'],
  'unit-labels': UNIT_LABEL_FORMS,
  preferences: ['columns', 'shown'],
};

const NOISE = [
  '',
  ' ',
  '0',
  '-1',
  '1e309',
  'NaN',
  'null',
  '__proto__',
  'constructor',
  'ß'.repeat(3_000),
  '../../etc/passwd',
  "'; DROP TABLE orders; --",
  '%00',
  'a\u0000b',
  '\ud800',
  '😀'.repeat(20),
  'ﷺ'.repeat(9),
  'x'.repeat(3_000),
  '2026-02-30',
  '<script>1</script>',
  '[object Object]',
  '9999999999999999999',
];
/** What a file of each kind may fill. */
const FIELDS: Record<(typeof IMPORT_KINDS)[number], readonly FieldSpec[]> = {
  orders: ORDER_FIELDS,
  products: PRODUCT_FIELDS,
  listings: LISTING_FIELDS,
  recipes: RECIPE_FIELDS,
  stock: STOCK_FIELDS,
  places: PLACE_FIELDS,
  purchases: PURCHASE_FIELDS,
  layout: LAYOUT_FIELDS,
  sent: SENT_FIELDS,
};
/** What is written into cells where nothing that exists is meant. */
const CELLS = [
  '1',
  '2',
  '12',
  '0',
  '1.000',
  '12.50',
  '1.2 kg',
  '30 cm',
  '2026-12-01',
  'yes',
  'paid',
  'bin',
  'US',
];
const WILD = [null, true, -1, 0, 1.5, 1e300, [], {}, [[]], 'x', { __proto__: 1 }, ['x', null]];

/** Makes requests up: mostly of the right form and about what is there, often with one thing wrong, now and then nonsense. */
export class MadeUp {
  constructor(
    private readonly forms: Record<string, JsonSchema>,
    /** What is there; taken anew now and then. */
    public pools: Pools,
    private readonly random: () => number,
  ) {}

  any<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)]!;
  }

  chance(p: number): boolean {
    return this.random() < p;
  }

  int(from: number, to: number): number {
    return from + Math.floor(this.random() * (to - from + 1));
  }

  /** The address of an operation, with what stands in its path and its query. */
  path(o: Operation): string {
    let after = '';
    const way = o.path
      .split('/')
      .map(word => {
        if (!word.includes('{')) {
          after = word;
          return word;
        }
        return word.replace(/\{(\w+)\}/, (_, name: string) => encodeURIComponent(this.part(after, name)));
      })
      .join('/');
    const asked = o.parameters
      .filter(p => p.in === 'query' && (p.required ? this.chance(0.95) : this.chance(0.4)))
      .map(p => `${p.name}=${encodeURIComponent(wellFormed(plain(this.value(p.schema, p.name))))}`);
    return asked.length > 0 ? `${way}?${asked.join('&')}` : way;
  }

  /** What stands in a path: mostly something that is there, by the word before it. */
  private part(after: string, name: string): string {
    if (this.chance(0.1)) return wellFormed(this.any(NOISE)) || '-';
    if (WORDS[after]) return this.any(WORDS[after]);
    const [column, letters] = AFTER[after] ?? [`${after}.${name}`];
    const there = this.pools.get(column);
    if (!there?.length || this.chance(0.05)) return this.any(this.pools.get(name) ?? this.pools.get('id')!);
    return letters ? `${letters}-${this.any(there)}` : this.any(there);
  }

  /** A body: right, or with one field that is wrong or missing, or nonsense. */
  body(schema: JsonSchema): unknown {
    if (this.chance(0.06)) return this.any(WILD);
    const made = this.value(schema, '');
    if (this.chance(0.6) || made === null || typeof made !== 'object' || Array.isArray(made)) return made;
    const keys = Object.keys(made);
    if (keys.length === 0) return made;
    const key = this.any(keys);
    const { [key]: _, ...rest } = made as Record<string, unknown>;
    return this.chance(0.4) ? rest : { ...rest, [key]: this.chance(0.5) ? this.any(WILD) : this.any(NOISE) };
  }

  /** A table for an address that takes one in: headings of its kind, about what is there, with cells that are not meant so. */
  table(path: string): string {
    const kind = IMPORT_KINDS.find(k => path.includes(`/imports/${k}`)) ?? this.any(IMPORT_KINDS);
    const fields = FIELDS[kind].filter(f => f.required || this.chance(0.4));
    const rows = Array.from({ length: this.int(0, 6) }, () => fields.map(f => this.cell(f.field)));
    return [fields.map(f => f.headings[0]!), ...rows].map(r => r.map(quotedCell).join(',')).join('\n');
  }

  private cell(field: string): string {
    if (this.chance(0.1)) return wellFormed(this.any(NOISE));
    const there = this.pools.get(ALIKE[field] ?? field);
    return there?.length && this.chance(0.7) ? this.any(there) : this.any(CELLS);
  }

  /** A value of a form; `name` is that of the field, by which something that exists is found. */
  value(schema: JsonSchema, name: string, deep = 0): unknown {
    const s = schema as Schema;
    if (s.$ref) return this.value(this.forms[s.$ref.split('/').at(-1)!] ?? {}, name, deep + 1);
    if (s.const !== undefined) return s.const;
    if (s.enum) return this.any(s.enum);
    const choices = s.anyOf ?? s.oneOf;
    if (choices) return this.value(deep > 6 ? choices[0]! : this.any(choices), name, deep + 1);
    if (s.allOf) return Object.assign({}, ...s.allOf.map(a => this.value(a, name, deep + 1)));
    if (s.type === 'object') return this.object(s, deep);
    if (s.type === 'array') return this.list(s, name, deep);
    if (s.type === 'boolean') return this.chance(0.5);
    if (s.type === 'null') return null;
    if (name === 'version' || name === 'base') return this.int(0, 5);
    if (s.type === 'integer' || s.type === 'number') return this.number(s);
    if (s.type === 'string') return this.text(s, name);
    return this.any(WILD);
  }

  private object(s: Schema, deep: number): object {
    const made: Record<string, unknown> = {};
    for (const [key, of] of Object.entries(s.properties ?? {}))
      if (s.required?.includes(key) || (deep < 5 && this.chance(0.5)))
        made[key] = this.value(of, key, deep + 1);
    if (s.additionalProperties && typeof s.additionalProperties === 'object')
      for (let i = this.int(0, 2); i > 0; i--)
        made[this.text(s.propertyNames ?? {}, 'id')] = this.value(s.additionalProperties, '', deep + 1);
    return made;
  }

  private list(s: Schema, name: string, deep: number): unknown[] {
    if (s.prefixItems) return s.prefixItems.map(i => this.value(i, name, deep + 1));
    const least = s.minItems ?? 0;
    const most = Math.min(s.maxItems ?? 3, least + (deep > 4 ? 0 : this.any([0, 1, 2, 3])));
    return Array.from({ length: Math.max(least, most) }, () =>
      this.value(s.items ?? {}, name.replace(/s$/, ''), deep + 1),
    );
  }

  private number(s: Schema): number {
    const low = Math.max(
      s.minimum ?? (s.exclusiveMinimum === undefined ? -5 : s.exclusiveMinimum + 1),
      -1e15,
    );
    const high = Math.min(s.maximum ?? 1e6, 1e15);
    const made = this.any([low, high, this.int(low, Math.min(high, low + 9)), this.int(low, high)]);
    return s.type === 'number' && this.chance(0.2) ? made + 0.5 : made;
  }

  private text(s: Schema, name: string): string {
    if (name === 'key' && this.chance(0.95)) return v7();
    const there = this.pools.get(ALIKE[name] ?? name);
    if (s.format === 'uuid') return this.any(there?.length ? there : this.pools.get('id')!);
    if (s.format === 'date') return this.any(['2026-11-30', '2026-01-01', '2031-12-31', '1999-02-29']);
    if (s.format === 'date-time') return this.any(['2026-11-27T10:00:00.000Z', '2020-01-01T00:00:00Z']);
    // Nothing outside this machine is asked, whatever address is made up.
    if (/address|url|server/i.test(name))
      return this.any(['http://127.0.0.1:9', 'smtp://127.0.0.1:9', 'ftp://x', 'x']);
    if (this.chance(0.04)) return wellFormed(this.any(NOISE)).slice(0, s.maxLength ?? 3_000);
    if (there?.length && this.chance(0.9)) return this.any(there);
    if (s.pattern) return this.any(samplesOf(s.pattern));
    return this.any(TEXTS[name] ?? ['a text', 'Boise', 'test', 'x'.repeat(s.minLength ?? 1)]);
  }
}

/** Texts that a pattern takes. */
const samplesOf = remembered((pattern: string) =>
  fc.sample(fc.stringMatching(new RegExp(pattern)), { numRuns: 20, seed: 15 }),
);

/** Fields that mean what a column of another name holds. */
const ALIKE: Record<string, string> = {
  id: 'orders.id',
  orderId: 'orders.id',
  from: 'place.code',
  to: 'place.code',
  place: 'place.code',
  carrier: 'carrier.code',
  channel: 'channel.code',
  part: 'product.sku',
  network: 'inboundShipment.network',
  box: 'box.code',
  service: 'carrierService.code',
  supplier: 'supplier.name',
};
const TEXTS: Record<string, string[]> = {
  mail: ['buyer@shop.example', 'x'],
  country: ['US', 'CA', 'DE', 'XX'],
  region: ['ID', 'NY', ''],
  postcode: ['83702', '10001', 'K1A 0B1'],
  currency: ['USD', 'EUR', 'XXX'],
  pin: ['2468'],
  text: ['AUK-ALL', 'AUK-UNDO', 'AUK-CLOSE', 'AUK-YES', 'AUK-SKIP', '3', '2 lb', 'BX-3', 'AB-1001', 'A-01-1'],
};

interface Schema extends Record<string, unknown> {
  $ref?: string;
  const?: unknown;
  enum?: unknown[];
  anyOf?: JsonSchema[];
  oneOf?: JsonSchema[];
  allOf?: JsonSchema[];
  type?: string;
  format?: string;
  pattern?: string;
  properties?: Record<string, JsonSchema>;
  required?: string[];
  additionalProperties?: JsonSchema | boolean;
  propertyNames?: Schema;
  prefixItems?: JsonSchema[];
  items?: JsonSchema;
  minItems?: number;
  maxItems?: number;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  minLength?: number;
  maxLength?: number;
}

const quotedCell = (text: string): string => `"${text.replaceAll('"', '""')}"`;
const plain = (v: unknown): string => (typeof v === 'object' ? JSON.stringify(v) : String(v));
/** Half of a pair of surrogates cannot be sent in an address. */
const wellFormed = (text: string): string =>
  text.replace(/[\ud800-\udfff]/g, m => (m.length === 2 ? m : '?'));
