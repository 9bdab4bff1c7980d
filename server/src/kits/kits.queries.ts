import type {
  KitPart,
  KitRow,
  KitView,
  MissingAnswer,
  PromiseAnswer,
  PromiseIn,
  ProposedBuildRow,
  RecipeVersion,
} from '@auk/contract';
import {
  available,
  type FreeUnits,
  freeAfter,
  type Gathered,
  missingFor,
  type NetProblem,
  promiseTogether,
  proposeBuilds,
  type RecipePart,
  recipeChanges,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import type { Product } from '../products/products.module.js';
import { CatalogService } from '../products/products.module.js';
import { Recipes } from './recipes.service.js';

/** Everything that availability is computed from, read once. */
interface House {
  products: Map<string, Product>;
  bySku: Map<string, Product>;
  free: FreeUnits;
  /** Units that open orders want and are not promised yet. */
  unserved: RecipePart[];
  building: Map<string, number>;
  openOrders: Map<string, number>;
  /** Minutes of the earliest departure of an open order that waits for the product. */
  urgency: Map<string, number>;
}

/** Reads of kits and bundles: what there is, what can be made, promised and should be built. */
@Injectable()
export class KitsQueries {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly recipes: Recipes,
  ) {}

  async list(): Promise<KitRow[]> {
    const house = await this.house();
    const after = freeAfter(house.unserved, house.free, lookIn(house));
    return [...house.products.values()]
      .filter(p => p.kind !== 'piece' && p.stage !== 'Retired')
      .sort((a, b) => (a.kind === b.kind ? (a.name < b.name ? -1 : 1) : a.kind === 'kit' ? -1 : 1))
      .map(p => rowOf(p, house, after));
  }

  async one(sku: string): Promise<KitView> {
    const house = await this.house();
    const product = kitOf(house, sku);
    const after = freeAfter(house.unserved, house.free, lookIn(house));
    const older = await this.recipes.older(this.db, product.id, house.products);
    return {
      ...rowOf(product, house, after),
      kitPolicy: product.kitPolicy,
      versions: await this.versions(product.id, house),
      frees: Object.fromEntries(
        product.recipe.parts.map(p => [house.products.get(p.productId)!.sku, house.free(p.productId)]),
      ),
      usedIn: [...house.products.values()].flatMap(p =>
        p.recipe.parts
          .filter(x => x.productId === product.id)
          .map(x => ({ sku: p.sku, name: p.name, quantity: x.quantity })),
      ),
      older: older.map(l => ({
        id: l.orderId,
        no: `OR-${l.no}`,
        channelNumber: l.channelNumber,
        stage: l.stage,
        version: l.version,
      })),
    };
  }

  /** What is missing to have so many of a kit or bundle. */
  async missing(sku: string, quantity: number): Promise<MissingAnswer> {
    const house = await this.house();
    const missing = missingFor(kitOf(house, sku).id, quantity, house.free, lookIn(house));
    if (!missing.ok) throw broken(missing.problem, house);
    return { quantity, missing: named(missing.value, house) };
  }

  /** Whether wished quantities can be promised together, from what is free now. */
  async promise(input: PromiseIn): Promise<PromiseAnswer> {
    const house = await this.house();
    const wishes = input.wishes.map(w => {
      const product = house.bySku.get(w.sku);
      if (!product) throw new NotHere(`The product ${w.sku}`);
      return { productId: product.id, quantity: w.quantity };
    });
    const answer = promiseTogether(wishes, house.free, lookIn(house));
    if (!answer.ok) throw broken(answer.problem, house);
    if (answer.value.yes) {
      const builds = named(answer.value.builds, house);
      const make = builds.map(b => `${b.quantity} × ${b.name}`).join(', ');
      return {
        yes: true,
        says:
          builds.length > 0
            ? `Yes, when ${make} ${builds.length === 1 ? 'is' : 'are'} built.`
            : 'Yes, all of it lies here.',
        builds,
        short: [],
      };
    }
    const { at, fits } = answer.value;
    const wish = house.products.get(wishes[at]!.productId)!;
    const out = named(answer.value.runsOut, house).map(s => s.name);
    const how = fits === 0 ? 'None of it' : `${fits} of ${wishes[at]!.quantity}`;
    return {
      yes: false,
      says: `No: ${out.join(' and ')} run${out.length === 1 ? 's' : ''} out at ${wish.name}. ${how} can be promised${at > 0 ? ' beside what stands above it' : ''}.`,
      builds: [],
      short: named(answer.value.short, house),
    };
  }

  /** Builds that should be made, for open orders and the least stock of each kit. */
  async proposed(): Promise<ProposedBuildRow[]> {
    const house = await this.house();
    const kits = [...house.products.values()].filter(p => p.kind === 'kit' && p.stage !== 'Retired');
    const unserved = new Map(house.unserved.map(u => [u.productId, u.quantity]));
    const needs = kits.map(p => ({
      productId: p.id,
      unserved: unserved.get(p.id) ?? 0,
      least: Number(p.facts.leastStock ?? 0),
      free: house.free(p.id),
      building: house.building.get(p.id) ?? 0,
      priority: house.urgency.get(p.id) ?? Number.MAX_SAFE_INTEGER,
    }));
    const byId = new Map(needs.map(n => [n.productId, n]));
    return proposeBuilds(needs, house.free, lookIn(house)).map(b => {
      const [product, need] = [house.products.get(b.productId)!, byId.get(b.productId)!];
      const why = [
        need.unserved > 0 ? `open orders lack ${need.unserved}` : '',
        need.least > need.free ? `${need.free} free, ${need.least} is the least` : '',
        need.building > 0 ? `${need.building} are being built` : '',
      ];
      return {
        sku: product.sku,
        name: product.name,
        picture: product.picture,
        quantity: b.quantity,
        now: b.now,
        why: why.filter(Boolean).join('; '),
        limits: named(b.limits, house),
      };
    });
  }

  private async versions(productId: string, house: House): Promise<RecipeVersion[]> {
    const rows = await this.db.rows<{
      id: string;
      version: number;
      at: Date;
      person: string | null;
      note: string;
    }>(
      'SELECT r.id, r.version, r.createdAt AS at, p.name AS person, r.note FROM recipe r LEFT JOIN person p ON p.id = r.personId WHERE r.productId = ? ORDER BY r.version',
      [productId],
    );
    const parts = await this.db.rows<RecipePart & { recipeId: string }>(
      'SELECT x.recipeId, x.productId, x.quantity FROM recipePart x JOIN recipe r ON r.id = x.recipeId WHERE r.productId = ? ORDER BY x.recipeId, x.position',
      [productId],
    );
    let before: RecipePart[] = [];
    const versions = rows.map((r): RecipeVersion => {
      const of = parts.filter(p => p.recipeId === r.id);
      const changes = recipeChanges(before, of);
      before = of;
      return {
        version: r.version,
        at: r.at.toISOString(),
        person: r.person,
        note: r.note,
        parts: named(of, house),
        changes:
          r.version === 1
            ? []
            : changes.map(c => ({
                sku: house.products.get(c.productId)!.sku,
                before: c.before,
                after: c.after,
              })),
      };
    });
    return versions.reverse();
  }

  private async house(): Promise<House> {
    const [products, stock, unserved, building, open] = await Promise.all([
      this.catalog.products(this.db),
      this.db.rows<{ productId: string; free: number }>(
        'SELECT productId, onHand - reserved AS free FROM productStock',
      ),
      this.db.rows<RecipePart & { soonest: number }>(
        `SELECT w.productId, CAST(SUM(w.lacks) AS INT) AS quantity, MIN(w.leaves) AS soonest FROM (
           SELECT p.productId, p.quantity - COALESCE(SUM(a.quantity), 0) AS lacks, COALESCE(FLOOR(UNIX_TIMESTAMP(o.leavesAt) / 60), 68374080) AS leaves FROM linePart p JOIN orders o ON o.id = p.orderId
             LEFT JOIN allocation a ON a.partId = p.id WHERE o.isOpen AND o.draftedAt IS NULL GROUP BY p.id HAVING lacks > 0) w GROUP BY w.productId`,
      ),
      this.db.rows<{ productId: string; n: number }>(
        "SELECT productId, CAST(SUM(quantity - made) AS INT) AS n FROM build WHERE state = 'open' AND kind = 'make' GROUP BY productId",
      ),
      this.db.rows<{ productId: string; n: number }>(
        'SELECT l.productId, COUNT(DISTINCT l.orderId) AS n FROM orderLine l JOIN orders o ON o.id = l.orderId AND o.isOpen WHERE l.removedAt IS NULL AND l.productId IS NOT NULL GROUP BY l.productId',
      ),
    ]);
    const free = new Map(stock.map(s => [s.productId, s.free]));
    return {
      products,
      bySku: new Map([...products.values()].map(p => [p.sku, p])),
      free: id => free.get(id) ?? 0,
      unserved: unserved.map(({ productId, quantity }) => ({ productId, quantity })),
      building: new Map(building.map(b => [b.productId, b.n])),
      openOrders: new Map(open.map(o => [o.productId, o.n])),
      urgency: new Map(unserved.map(u => [u.productId, Number(u.soonest)])),
    };
  }
}

const lookIn =
  (house: House) =>
  (id: string): Gathered | undefined =>
    house.products.get(id)?.recipe;

function kitOf(house: House, sku: string): Product {
  const product = house.bySku.get(sku.toUpperCase());
  if (!product) throw new NotHere(`The product ${sku.slice(0, 60)}`);
  if (product.kind === 'piece')
    throw new Forbidden(
      `${product.name} is a piece and has no recipe.`,
      'Change its kind to kit or bundle first.',
    );
  return product;
}

function rowOf(p: Product, house: House, after: FreeUnits): KitRow {
  const now = available(p.id, house.free, lookIn(house));
  const left = available(p.id, after, lookIn(house));
  return {
    sku: p.sku,
    name: p.name,
    kind: p.kind as 'kit' | 'bundle',
    picture: p.picture,
    own: now.ok ? now.value.own : 0,
    makeable: now.ok ? now.value.makeable : 0,
    leftToSell: left.ok ? left.value.own + left.value.makeable : 0,
    limits: now.ok ? named(now.value.limits, house) : [],
    building: house.building.get(p.id) ?? 0,
    least: Number(p.facts.leastStock ?? 0),
    openOrders: house.openOrders.get(p.id) ?? 0,
    problem: now.ok ? null : problemWords(now.problem, house),
  };
}

const named = (parts: readonly RecipePart[], house: House): KitPart[] =>
  parts.map(p => {
    const product = house.products.get(p.productId)!;
    return { sku: product.sku, name: product.name, quantity: p.quantity };
  });

function problemWords(problem: NetProblem, house: House): string {
  const sku = (id: string) => house.products.get(id)?.sku ?? id;
  switch (problem.code) {
    case 'loop':
      return `Its recipe contains itself: ${problem.path.map(sku).join(' > ')}.`;
    case 'no-recipe':
      return `${sku(problem.productId)} has no recipe yet.`;
    case 'unknown-part':
      return 'One of its parts is no product.';
    case 'too-many':
      return `That many take more ${sku(problem.productId)} than can be counted.`;
  }
}

const broken = (problem: NetProblem, house: House) =>
  new Forbidden(problemWords(problem, house), 'Mend the recipe first, or ask for fewer.');
