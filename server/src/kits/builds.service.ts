import type { BuildIn, FinishIn, Judged, ScanIn, UnbuildIn } from '@auk/contract';
import { type BuildState, buildScan, count, openBuild, type RecipePart } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { OrderChecks } from '../intake/intake.module.js';
import { OrdersService, TypedOrders } from '../orders/orders.module.js';
import { CatalogService, type Product, stockedParts } from '../products/products.module.js';
import {
  event,
  lockOrders,
  refreshStages,
  toHistory,
  Undoing,
  wantMore,
  wantOnlyUsed,
} from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { ScansService } from '../scans/scans.module.js';
import { type HoldChange, type Move, Places, placeByCode, StockService } from '../stock/stock.module.js';
import { Build } from './build.entity.js';
import {
  type Act,
  type AtHand,
  type BuildRecord,
  holdOf,
  moveOf,
  mustBeOpen,
  mustSuffice,
  recipeOf,
  takeFrom,
  usedHolds,
} from './buildParts.js';
import {
  addMade,
  anythingUsed,
  lockOnBench,
  lockUnlisted,
  partProducts,
  pickedFor,
  recipeParts,
  softOf,
} from './buildRows.queries.js';

const STOCK_KINDS = new Set(['bin', 'reserve', 'dock']);

/** Builds: kits made ahead from parts, finished in portions, given up, or taken apart. Every unit goes by the ledger. */
@Injectable()
export class Builds {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly stock: StockService,
    private readonly typed: TypedOrders,
    private readonly orders: OrdersService,
    private readonly undoing: Undoing,
    private readonly checks: OrderChecks,
    private readonly reservations: Reservations,
    private readonly places: Places,
    private readonly house: HouseService,
    private readonly scans: ScansService,
  ) {}

  /** Plans a build. Its parts are reserved as an order of the house's own, or wait on the bench. Gives its number. */
  create(input: BuildIn, doer: Doer): Promise<string> {
    return this.db.tx(doer, tx => once(tx, input.key, 'build', () => this.createIn(tx, input)));
  }

  private async createIn(tx: Tx, input: BuildIn): Promise<string> {
    const products = await this.catalog.skusWithParts(tx, [input.sku]);
    const { kit, parts } = recipeOf(products, input.sku);
    const bench = input.bench === '' ? null : await this.place(tx, input.bench, ['bench']);
    if (input.source === 'bench' && !bench)
      throw new Forbidden('Parts from a bench need a bench.', 'Name the bench where they lie.');
    await tx.insert(Build, [
      {
        id: input.key,
        kind: 'make',
        productId: kit.id,
        recipeId: kit.recipe.recipeId,
        quantity: input.quantity,
        due: input.due,
        benchId: bench?.id ?? null,
        instruction: input.instruction,
        source: input.source,
        createdAt: tx.at,
        personId: tx.personId,
      },
    ]);
    const { no } = (await tx.of(Build).findOne({ where: { id: input.key }, select: { no: true } }))!;
    if (input.source === 'pick') {
      const orderId = await this.typed.ofBuild(
        tx,
        { number: `BU-${no}`, says: `Build of ${input.quantity} × ${kit.name}`, due: input.due },
        parts.map(p => {
          const { sku, name } = products.get(p.productId)!;
          return { sku, name, quantity: p.quantity * input.quantity };
        }),
      );
      await tx.of(Build).update({ id: input.key }, { orderId });
    }
    await tx.tell('builds', `BU-${no}`);
    return `BU-${no}`;
  }

  /** Finishes a portion: so many made and put in a place, so many parts spoiled. All planned made closes the build. */
  finish(no: string, input: FinishIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      await this.scans.close(tx, input.key);
      const build = await this.locked(tx, no);
      await once(tx, input.key, 'finish build', () => this.finishIn(tx, build, input));
    });
  }

  private async finishIn(tx: Tx, build: BuildRecord, input: FinishIn): Promise<void> {
    mustBeOpen(build);
    if (input.made === 0 && input.scrapped.length === 0)
      throw new Forbidden('Nothing was made and nothing spoiled.', 'Say how many were made.');
    if (build.made + input.made > build.quantity)
      throw new Forbidden(
        `BU-${build.no} was started for ${build.quantity} and ${build.made} are made; ${input.made} more would be too many.`,
        `Say at most ${build.quantity - build.made}, or plan another build for the rest.`,
      );
    const products = await this.productsOf(tx, build);
    const bySku = new Map([...products.values()].map(p => [p.sku, p.id]));
    const parts = await this.partsOf(tx, build, products);
    const spoiled = input.scrapped.map(s => {
      const productId = bySku.get(s.sku);
      if (!productId || !parts.some(p => p.productId === productId))
        throw new Forbidden(`${s.sku} is no part of this build.`, 'Name one of its parts.');
      return { productId, quantity: s.quantity, why: s.why };
    });
    await this.stock.lockFree(tx, [...parts.map(p => p.productId), build.productId]);
    const hand = await this.atHand(tx, build);
    mustSuffice(parts, input.made, spoiled, hand, products);
    const made = await this.house.place(tx, 'made');
    const gone = await this.house.place(tx, 'gone');
    const moves: Move[] = [];
    const holds: HoldChange[] = [];
    const use = (productId: string, quantity: number, to: string, act: Act) => {
      for (const [h, n] of takeFrom(hand, productId, quantity)) {
        moves.push(moveOf(build, h, n, to, act));
        holds.push(...usedHolds(build, h, n));
      }
    };
    for (const p of parts) use(p.productId, p.quantity * input.made, made, { why: 'build', reason: '' });
    for (const s of spoiled) use(s.productId, s.quantity, gone, { why: 'scrap', reason: s.why });
    if (input.made > 0) {
      const to = await this.place(tx, input.to, ['bin', 'reserve', 'dock']);
      moves.push({
        productId: build.productId,
        lotId: null,
        from: made,
        to: to.id,
        quantity: input.made,
        why: 'build',
        causeId: build.id,
      });
    }
    await this.stock.apply(tx, { moves, holds });
    await addMade(tx, input.made, build.id);
    build.made += input.made;
    if (build.made === build.quantity) await this.close(tx, build, products);
    else await this.wantAgain(tx, build, spoiled);
    await this.settle(tx, build, [build.productId]);
  }

  /** Judges a scan of a portion, whose session the first scan opens under the id that the device made for it. */
  scan(no: string, sessionId: string, scan: ScanIn, doer: Doer): Promise<Judged<BuildState>> {
    return this.db.tx(doer, async tx => {
      if (!(await this.scans.find(tx, sessionId))) await this.openPortion(tx, no, sessionId, scan.device);
      return this.scans.judge(tx, 'build', sessionId, scan, buildScan);
    });
  }

  /** A portion as its scans left it. */
  portion(no: string, sessionId: string): Promise<BuildState> {
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      const known = await this.scans.find<BuildState>(tx, sessionId);
      return known?.state ?? this.emptyPortion(tx, await this.locked(tx, no));
    });
  }

  private async openPortion(tx: Tx, no: string, sessionId: string, device: string): Promise<void> {
    const build = await this.locked(tx, no);
    mustBeOpen(build);
    const state = await this.emptyPortion(tx, build);
    await this.scans.open(tx, { kind: 'build', buildId: build.id }, state, device, sessionId);
  }

  private async emptyPortion(tx: Tx, build: BuildRecord): Promise<BuildState> {
    const { sku, name, codes } = (await this.catalog.products(tx, [build.productId])).get(build.productId)!;
    return openBuild(`BU-${build.no}`, { sku, name, codes });
  }

  /** Gives up the rest of a build: what is left over goes back where it came from, and what was reserved is free again. */
  stop(no: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const build = await this.locked(tx, no);
      mustBeOpen(build);
      const products = await this.productsOf(tx, build);
      await this.close(tx, build, products);
      await this.settle(tx, build, []);
    });
  }

  /** Takes kits apart: from a place of stock into its parts, put into another. Only what no order is promised. */
  unbuild(input: UnbuildIn, doer: Doer): Promise<string> {
    return this.db.tx(doer, tx => once(tx, input.key, 'unbuild', () => this.unbuildIn(tx, input)));
  }

  private async unbuildIn(tx: Tx, input: UnbuildIn): Promise<string> {
    const products = await this.catalog.skusWithParts(tx, [input.sku]);
    const { kit, parts } = recipeOf(products, input.sku);
    const from = await this.place(tx, input.from, ['bin', 'reserve', 'dock']);
    const to = await this.place(tx, input.to, ['bin', 'reserve', 'dock']);
    // Orders that wait for its parts are locked before goods.
    const wanting = await this.reservations.lockWanting(
      tx,
      parts.map(p => p.productId),
    );
    const free = (await this.stock.lockFree(tx, [kit.id, ...parts.map(p => p.productId)])).get(kit.id) ?? 0;
    const lies = await lockUnlisted(tx, kit.id, from.id);
    if (input.quantity > Math.min(free, lies?.n ?? 0))
      throw new Forbidden(
        `${Math.max(0, lies?.n ?? 0)} of ${kit.name} lie in ${from.code} on no list, and ${free} in all are promised to nobody; ${input.quantity} cannot be taken apart.`,
        'Take fewer apart, or look where the others lie.',
      );
    await tx.insert(Build, [
      {
        id: input.key,
        kind: 'unbuild',
        productId: kit.id,
        recipeId: kit.recipe.recipeId,
        quantity: input.quantity,
        made: input.quantity,
        source: 'bench',
        state: 'done',
        instruction: input.reason,
        createdAt: tx.at,
        personId: tx.personId,
        doneAt: tx.at,
      },
    ]);
    const made = await this.house.place(tx, 'made');
    const common = { lotId: null, why: 'unbuild', causeId: input.key, reason: input.reason };
    await this.stock.apply(tx, {
      moves: [
        { ...common, productId: kit.id, from: from.id, to: made, quantity: input.quantity },
        ...parts.map(p => ({
          ...common,
          productId: p.productId,
          from: made,
          to: to.id,
          quantity: p.quantity * input.quantity,
        })),
      ],
    });
    await this.reservations.reserveLocked(tx, wanting);
    const { no } = (await tx.of(Build).findOne({ where: { id: input.key }, select: { no: true } }))!;
    await tx.tell('builds', `BU-${no}`);
    await tx.tell('stock', kit.id);
    return `BU-${no}`;
  }

  /** The kit of a build with all that its recipe reaches, the newest and the one it was started with. */
  private async productsOf(tx: Tx, build: BuildRecord): Promise<Map<string, Product>> {
    const then = await partProducts(tx, build.recipeId);
    return this.catalog.withParts(tx, [build.productId, ...then.map(p => p.productId)]);
  }

  /** Parts of one kit by the recipe the build was started with; bundles broken up, kits inside whole. */
  async partsOf(tx: Tx, build: BuildRecord, products: Map<string, Product>): Promise<RecipePart[]> {
    const parts = await recipeParts(tx, build.recipeId);
    const kit = products.get(build.productId)!;
    const then = new Map(products).set(kit.id, { ...kit, recipe: { ...kit.recipe, parts } });
    return stockedParts(kit.id, then);
  }

  /** What lies at hand for a build, oldest first. Its order is locked, and with it all that is held for it. */
  async atHand(tx: Tx, build: BuildRecord): Promise<AtHand[]> {
    if (build.source === 'bench') return lockOnBench(tx, build.benchId);
    return pickedFor(tx, build.orderId);
  }

  /** Spoiled parts are wanted again, so that the build can still be made whole. */
  private async wantAgain(
    tx: Tx,
    build: BuildRecord,
    spoiled: readonly { productId: string; quantity: number }[],
  ): Promise<void> {
    if (build.orderId === null) return;
    for (const s of spoiled) await wantMore(tx, build.orderId, s.productId, s.quantity);
    await this.checks.recheck(tx, [build.orderId]);
  }

  /** Ends a build: left-over parts go back to their places, promises are given back, the tote is free. */
  private async close(tx: Tx, build: BuildRecord, products: Map<string, Product>): Promise<void> {
    const freed = build.orderId === null ? [] : await this.giveBack(tx, build, build.orderId, products);
    await tx
      .of(Build)
      .update({ id: build.id }, { state: build.made > 0 ? 'done' : 'cancelled', doneAt: tx.at });
    await this.reservations.reserveAgain(tx, freed);
  }

  private async giveBack(
    tx: Tx,
    build: BuildRecord,
    orderId: string,
    products: Map<string, Product>,
  ): Promise<string[]> {
    const undoes = await this.undoing.listed(tx, orderId);
    if (undoes === 'picking')
      throw new Forbidden(
        `Somebody is picking parts of BU-${build.no} right now.`,
        'Wait until that list is picked; what was picked is put back then.',
      );
    if (undoes === 'released') await this.undoing.takeOffLists(tx, orderId);
    const soft = await softOf(tx, orderId);
    const hand = await this.atHand(tx, build);
    const holds: HoldChange[] = [
      ...soft.map(s => ({
        partId: s.partId,
        orderId,
        productId: s.productId,
        hold: 'soft' as const,
        stopId: null,
        parcelId: null,
        change: -s.quantity,
        why: 'build ended',
      })),
      ...hand.map(h => holdOf(build, h, 'picked', -h.quantity)),
    ];
    const moves = hand.map(h => moveOf(build, h, h.quantity, h.homeId!, { why: 'left over', reason: '' }));
    await lockAll(tx, { productStock: [...soft, ...hand].map(x => x.productId) });
    await this.stock.apply(tx, { moves, holds });
    await wantOnlyUsed(tx, orderId);
    await this.places.freeTotes(tx, orderId);
    const back = hand.map(h => `${h.quantity} × ${products.get(h.productId)!.sku}`);
    if (build.made === 0 && !(await this.usedAnything(tx, orderId)))
      await this.orders.cancelLocked(tx, orderId, `BU-${build.no} was given up.`, null);
    else
      await toHistory(tx, [
        event(
          tx,
          orderId,
          'built',
          `${count(build.made, 'kit')} made.${back.length > 0 ? ` Put back: ${back.join(', ')}.` : ''}`,
        ),
      ]);
    return [...soft, ...hand].map(x => x.productId);
  }

  private async usedAnything(tx: Tx, orderId: string): Promise<boolean> {
    const used = await anythingUsed(tx, orderId);
    return used !== null;
  }

  private async settle(tx: Tx, build: BuildRecord, freed: readonly string[]): Promise<void> {
    if (build.orderId) await refreshStages(tx, [build.orderId]);
    await this.reservations.reserveAgain(tx, freed);
    await tx.tell('builds', `BU-${build.no}`);
    await tx.tell('stock', build.productId);
    await tx.tell('orders', '');
  }

  /** Locks a build: its order first, as all do. */
  private async locked(tx: Tx, no: string): Promise<BuildRecord> {
    const number = Number(/^BU-(\d{1,9})$/i.exec(no)?.[1] ?? -1);
    const seen = await tx.of(Build).findOne({ where: { no: number }, select: { id: true, orderId: true } });
    if (!seen) throw new NotHere(`The build ${no.slice(0, 20)}`);
    if (seen.orderId) await lockOrders(tx, [seen.orderId]);
    return (await tx.of(Build).findOne({ where: { id: seen.id }, lock: { mode: 'pessimistic_write' } }))!;
  }

  private async place(tx: Tx, code: string, kinds: readonly string[]): Promise<{ id: string; code: string }> {
    const found = await placeByCode(tx, code);
    if (!found)
      throw code === ''
        ? new Forbidden('No place is named.', 'Scan the place where the kits are put.')
        : new NotHere(`The place ${code}`);
    if (!kinds.includes(found.kind))
      throw new Forbidden(
        `${code} is no ${kinds[0] === 'bench' ? 'bench' : 'place for stock'}.`,
        STOCK_KINDS.has(kinds[0]!) ? 'Name a place on the shelves or the dock.' : 'Name a bench, like BE-1.',
      );
    return found;
  }
}
