import type { CodeIn } from '@auk/contract';
import {
  type Change,
  canonicalCode,
  type FactValue,
  FIELD_WORDS,
  fitsCode128,
  ownStage,
  PRODUCT_FACTS,
  type ProductStage,
  parseScan,
  quoted,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { Db, type Doer, isDuplicate, newId, type Tx } from '../database/db.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { OrderChecks } from '../intake/intake.module.js';
import type { Product } from '../products/products.module.js';
import { CatalogService } from '../products/products.module.js';
import { ADDRESS_TABLES } from '../reference/addressTables.js';
import { forgetProduct } from '../stock/stock.module.js';
import { Product as ProductEntity } from './product.entity.js';
import { ProductAlias } from './productAlias.entity.js';
import { ProductCode } from './productCode.entity.js';
import { ProductEvent } from './productEvent.entity.js';
import { noteProduct } from './productHistory.js';
import {
  bearerOf,
  deleteRecipeParts,
  isUsed,
  lockOrdersOf,
  placeBears,
  setFields,
  setKitPolicy,
  setStage,
} from './products.queries.js';
import { Recipe } from './recipe.entity.js';

type Fields = Record<string, FactValue>;

const COLUMNS = [
  'name',
  'stage',
  'kind',
  'hint',
  'weightMg',
  'packedWeightMg',
  'length',
  'width',
  'height',
] as const;
/** What customs ask of a product; orders abroad wait for it. */
const CUSTOMS_FIELDS: readonly string[] = [
  'customsCode',
  'origin',
  'weightMg',
  'hazardous',
  'unNumber',
  'hazardClass',
  'hazardName',
];
const WORDS: Record<string, string> = {
  name: 'name',
  stage: 'stage',
  kind: 'kind',
  hint: 'hint for pickers',
  weightMg: 'weight',
  packedWeightMg: 'packed weight',
  length: 'length',
  width: 'width',
  height: 'height',
  ...Object.fromEntries(PRODUCT_FACTS.map(f => [f.key, f.words])),
};

/** Changes of products, each with its history; orders that waited for the change go on at once. */
@Injectable()
export class ProductsService {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly checks: OrderChecks,
  ) {}

  create(sku: string, fields: Fields, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      await this.insert(tx, sku, fields);
      await tx.tell('catalog', sku);
    });
  }

  /** Makes a product inside a transaction; returns its id. It is Unproven until something of it can be scanned. */
  async insert(tx: Tx, sku: string, fields: Fields): Promise<string> {
    const read = checkFields(fields);
    if (!read.name) throw new Forbidden('A product needs a name.', 'Type its name.');
    const id = newId();
    const kind = (read.kind as Product['kind']) ?? 'piece';
    try {
      await tx.insert(ProductEntity, [
        {
          id,
          sku,
          name: String(read.name),
          kind,
          stage: ownStage({ kind, stage: 'Unproven', barcodes: 0 }),
          hint: (read.hint as string) ?? null,
          weightMg: (read.weightMg as number) ?? null,
          packedWeightMg: (read.packedWeightMg as number) ?? null,
          length: (read.length as number) ?? null,
          width: (read.width as number) ?? null,
          height: (read.height as number) ?? null,
          facts: JSON.stringify(factsOf(read)),
        },
      ]);
    } catch (error) {
      if (isDuplicate(error))
        throw new TooLate(`There is a product ${sku} already.`, 'Open it, or take another SKU.');
      throw error;
    }
    await noteProduct(tx, id, 'Made.');
    return id;
  }

  edit(sku: string, version: number, fields: Fields, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const product = await this.locked(tx, sku);
      if (product.version !== version)
        throw new TooLate(
          'Someone changed this product while you were at it.',
          'Look at it again, then repeat your change.',
        );
      await this.apply(tx, product, fields);
      await tx.tell('catalog', sku);
    });
  }

  /** Sets facts of a product within another act. */
  async set(tx: Tx, sku: string, fields: Fields): Promise<void> {
    await this.apply(tx, await this.locked(tx, sku), fields);
  }

  /** One change in many products: all or none. */
  editMany(skus: readonly string[], fields: Fields, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      for (const sku of [...new Set(skus)].sort()) await this.set(tx, sku, fields);
      await tx.tell('catalog', '');
    });
  }

  /** Sets whether orders may eke a kit out with its parts. */
  async setKitPolicy(tx: Tx, productId: string, kitPolicy: Product['kitPolicy']): Promise<void> {
    await setKitPolicy(tx, kitPolicy, productId);
    await noteProduct(
      tx,
      productId,
      kitPolicy === 'stock'
        ? 'Orders take it from its own stock only.'
        : 'Orders take it from its own stock, and the rest from its parts.',
    );
  }

  /** What fields would change in a product. */
  changes(product: Product, fields: Fields): Change[] {
    const read = checkFields(fields);
    return Object.keys(read)
      .map(field => ({ line: null, field, before: storedValue(product, field), after: plain(read[field]!) }))
      .filter(c => c.before !== c.after);
  }

  /** Applies fields to a locked product and frees or stops the orders that this concerns. Returns the changes. */
  async apply(tx: Tx, product: Product, fields: Fields): Promise<Change[]> {
    const changes = this.changes(product, fields);
    if (changes.length === 0) return [];
    const kind = changes.find(c => c.field === 'kind');
    if (kind && (await isUsed(tx, product.id)))
      throw new Forbidden(
        `${product.sku} is in orders or stock as a ${product.kind}, so it cannot become a ${kind.after}.`,
        'Make a new product for it.',
      );
    const after = { ...product.facts, ...factsOf(checkFields(fields)) };
    const columns = changes.filter(c => (COLUMNS as readonly string[]).includes(c.field));
    const stage = changes.find(c => c.field === 'stage');
    if (stage)
      stage.after = ownStage({
        kind: product.kind,
        stage: stage.after as ProductStage,
        barcodes: product.codes.length,
      });
    await setFields(tx, product.id, columns, JSON.stringify(after));
    const says = `Changed ${changes.map(c => WORDS[c.field] ?? FIELD_WORDS[c.field] ?? c.field).join(', ')}.`;
    await noteProduct(tx, product.id, says, changes);
    if (changes.some(c => c.field === 'stage')) await this.recheckOrders(tx, product.id);
    if (changes.some(c => CUSTOMS_FIELDS.includes(c.field)))
      await this.checks.recheckStopped(tx, ['no-customs'], product.sku);
    return changes;
  }

  /** Gives a code to a product; its orders that waited for one go on. The code must be nobody else's. */
  giveCode(sku: string, input: z.infer<typeof CodeIn>, doer: Doer): Promise<{ freed: number }> {
    return this.db.tx(doer, async tx => {
      const product = await this.locked(tx, sku);
      const freed = await this.addCode(tx, product, input.code, input.units);
      await tx.tell('catalog', sku);
      return { freed };
    });
  }

  /** Gives a code inside a transaction; returns how many orders it freed. */
  async addCode(tx: Tx, product: Product, text: string, units: number): Promise<number> {
    const code = canonicalCode(text);
    if (!fitsCode128(code))
      throw new Forbidden(
        `${quoted(code)} cannot be a barcode.`,
        'Scan it; codes have letters, digits and signs of a keyboard only.',
      );
    const parsed = parseScan(code, tx.at.getUTCFullYear());
    if ((parsed.ok && ['own', 'command'].includes(parsed.value.type)) || (await placeBears(tx, code)))
      throw new Forbidden(
        `${quoted(code)} is the code of a place, an order or a command.`,
        'Scan the code on the product.',
      );
    if (product.kind === 'bundle' && units > 1)
      throw new Forbidden('A bundle has no cases.', 'Give its parts their case codes.');
    const owner = await bearerOf(tx, code);
    if (owner && (owner.sku !== product.sku || owner.units !== units))
      throw new Forbidden(
        `${quoted(code)} belongs to ${owner.name} (${owner.sku})${owner.units > 1 ? ` and counts ${owner.units}` : ''}.`,
        'Scan the code again, or take it off there first.',
      );
    if (owner) return 0;
    await tx.insert(ProductCode, [{ code, productId: product.id, units }]);
    product.codes.push({ code, units });
    const stage = ownStage({ kind: product.kind, stage: product.stage, barcodes: product.codes.length });
    await setStage(tx, stage, product.id);
    await noteProduct(tx, product.id, units > 1 ? `Code ${code} counts ${units}.` : `Code ${code} given.`);
    return this.checks.recheckStopped(tx, ['no-code'], product.sku);
  }

  takeCode(sku: string, code: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const product = await this.locked(tx, sku);
      const { affected } = await tx.of(ProductCode).delete({ code, productId: product.id });
      if (!affected) throw new NotHere(`The code ${quoted(code)}`);
      const stage = ownStage({
        kind: product.kind,
        stage: product.stage,
        barcodes: product.codes.length - 1,
      });
      await setStage(tx, stage, product.id);
      await noteProduct(tx, product.id, `Code ${code} taken off.`);
      if (stage !== product.stage) await this.recheckOrders(tx, product.id);
      await tx.tell('catalog', sku);
    });
  }

  /** Adds or takes off another code that the product is known by (a supplier's, an old SKU). It is no barcode; listings are proposed by it. */
  alias(sku: string, code: string, on: boolean, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const product = await this.locked(tx, sku);
      if (on) await tx.upsert(ProductAlias, [{ code, productId: product.id }], ['code']);
      else await tx.of(ProductAlias).delete({ code, productId: product.id });
      await noteProduct(tx, product.id, on ? `Also known as ${code}.` : `No longer known as ${code}.`);
      await tx.tell('catalog', sku);
    });
  }

  /** Deletes a retired product that nothing refers to. */
  remove(sku: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const product = await this.locked(tx, sku);
      if (product.stage !== 'Retired')
        throw new Forbidden(`${product.name} is ${product.stage}.`, 'Retire it first.');
      if (await isUsed(tx, product.id))
        throw new Forbidden(
          `${product.name} is in orders, stock, recipes or listings.`,
          'It stays, retired, so that their stories stay whole.',
        );
      for (const of of [ProductCode, ProductAlias, ProductEvent])
        await tx.of<{ productId: string }>(of).delete({ productId: product.id });
      await forgetProduct(tx, product.id);
      await deleteRecipeParts(tx, product.id);
      await tx.of(Recipe).delete({ productId: product.id });
      await tx.of(ProductEntity).delete({ id: product.id });
      await tx.tell('catalog', sku);
    });
  }

  /** Locks a product and gives it whole. */
  async locked(tx: Tx, sku: string): Promise<Product> {
    const row = await tx.of(ProductEntity).findOne({
      where: { sku: sku.toUpperCase() },
      select: { id: true },
      lock: { mode: 'pessimistic_write' },
    });
    if (!row) throw new NotHere(`The product ${quoted(sku)}`);
    return (await this.catalog.products(tx, [row.id])).get(row.id)!;
  }

  /** Checks the orders again that hold the product and are on no list yet. */
  private async recheckOrders(tx: Tx, productId: string): Promise<void> {
    const ids = await lockOrdersOf(tx, productId);
    if (ids.length > 0)
      await this.checks.recheck(
        tx,
        ids.map(r => r.id),
      );
  }
}

const plain = (v: FactValue) => (typeof v === 'boolean' ? (v ? 1 : 0) : v);

function storedValue(p: Product, field: string): string | number | null {
  if (field === 'length' || field === 'width' || field === 'height') return p.size?.[field] ?? null;
  if ((COLUMNS as readonly string[]).includes(field)) return (p[field as 'name'] ?? null) as string | null;
  const fact = p.facts[field] ?? null;
  return PRODUCT_FACTS.find(f => f.key === field)?.kind === 'flag' ? (fact ? 1 : 0) : plain(fact);
}

const factsOf = (fields: Fields): Fields =>
  Object.fromEntries(Object.entries(fields).filter(([k]) => PRODUCT_FACTS.some(f => f.key === k)));

/** Refuses fields that are none, and values of the wrong kind; gives the fields as they are stored. */
export function checkFields(fields: Fields): Fields {
  const wrong = (field: string, cure: string) =>
    new Forbidden(
      `${WORDS[field] ?? `“${quoted(field)}”`} cannot be “${quoted(String(fields[field]))}”.`,
      cure,
    );
  return Object.fromEntries(
    Object.entries(fields).map(([field, value]) => {
      const fact = PRODUCT_FACTS.find(f => f.key === field);
      if (fact) {
        if (fact.kind === 'flag' && typeof value !== 'boolean' && value !== null)
          throw wrong(field, 'Say yes or no.');
        if (
          fact.kind === 'text' &&
          value !== null &&
          (typeof value !== 'string' || value.length > fact.most!)
        )
          throw wrong(field, `Type at most ${fact.most} characters.`);
        if (
          (fact.kind === 'count' || fact.kind === 'money') &&
          value !== null &&
          !(typeof value === 'number' && Number.isInteger(value) && value >= 0 && value <= 1e9)
        )
          throw wrong(field, 'Type a whole number.');
        if (field === 'origin' && value && !ADDRESS_TABLES.isCountry(String(value).toUpperCase()))
          throw wrong(field, 'Type a country code such as US.');
        if (field === 'customsCode' && value && !/^\d{6,14}$/.test(String(value).replace(/[ .]/g, '')))
          throw wrong(field, 'A harmonised code has at least 6 digits.');
        if (field === 'unNumber' && value && !/^(UN\s?)?\d{4}$/i.test(String(value)))
          throw wrong(field, 'A UN number has four digits, such as UN 3077.');
        if (field === 'origin' && value) return [field, String(value).toUpperCase()];
        return [field, value === '' ? null : value];
      }
      if (!(COLUMNS as readonly string[]).includes(field)) throw wrong(field, 'A product has no such field.');
      if (field === 'name' && (typeof value !== 'string' || value === '' || value.length > 120))
        throw wrong(field, 'Type a name of at most 120 characters.');
      if (field === 'hint' && value !== null && (typeof value !== 'string' || value.length > 120))
        throw wrong(field, 'Type at most 120 characters.');
      if (field === 'stage' && !['Unproven', 'Live', 'Retired'].includes(String(value)))
        throw wrong(field, 'A stage is Unproven, Live or Retired.');
      if (field === 'kind' && !['piece', 'kit', 'bundle'].includes(String(value)))
        throw wrong(field, 'A kind is piece, kit or bundle.');
      const number = ['weightMg', 'packedWeightMg', 'length', 'width', 'height'].includes(field);
      if (number && value !== null && !(typeof value === 'number' && value > 0 && value <= 1e9))
        throw wrong(field, 'Type a number and a unit.');
      return [field, value];
    }),
  );
}
