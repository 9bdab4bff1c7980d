import type { DecideDifference, NetworkBooking } from '@auk/contract';
import { type InboundStage, reconcileCount } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, newId, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Centers } from '../elsewhere/elsewhere.module.js';
import { HouseService } from '../house/house.module.js';
import { log } from '../http/log.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { Rounds } from '../leases/leases.module.js';
import { CatalogService } from '../products/products.module.js';
import { StageNews, type StagePassed } from '../records/records.module.js';
import { type Move, Places, StockService } from '../stock/stock.module.js';
import { InboundBookings } from './bookings.service.js';
import {
  boxesOf,
  contentsOf,
  countedBefore,
  lyingAt,
  partsOfOrders,
  partsToFollow,
  plansToLookAt,
  surplusOf,
} from './inbound.queries.js';
import { InboundCount } from './inboundCount.entity.js';
import { InboundDifference } from './inboundDifference.entity.js';
import { InboundEvent } from './inboundEvent.entity.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { InboundPlans } from './plans.service.js';
import { lockPart, shipmentBy, tell } from './shipments.js';
import { bringTo, refreshPart } from './stages.js';

const EVERY_MS = 30_000;

/** Stages by what a network says. */
const STAGE_OF: Partial<Record<NetworkBooking['state'], InboundStage>> = {
  travelling: 'Travelling',
  'at dock': 'At dock',
  counting: 'Counting in',
  counted: 'Counting in',
};

/** Follows bookings until all is counted: stages, what came late, units from the way into the center, and what does not agree. */
@Injectable()
export class InboundFollowing {
  constructor(
    private readonly db: Db,
    private readonly centers: Centers,
    private readonly bookings: InboundBookings,
    private readonly plans: InboundPlans,
    private readonly catalog: CatalogService,
    private readonly stock: StockService,
    private readonly places: Places,
    private readonly house: HouseService,
    rounds: Rounds,
    stages: StageNews,
  ) {
    stages.listen((tx, rows) => this.ofStages(tx, rows));
    rounds.register({
      name: 'inbound',
      everyMs: EVERY_MS,
      leaseMs: 60_000,
      lanes: async () => [
        ...new Set(
          [...(await partsToFollow(this.db)), ...(await plansToLookAt(this.db))].map(p => p.network),
        ),
      ],
      work: async (network, turn) => {
        for (const { no } of (await plansToLookAt(this.db)).filter(s => s.network === network)) {
          if (turn.stopped()) return;
          await this.plans
            .look(`IN-${no}`)
            .catch((error: unknown) =>
              log.error({ err: error, no }, 'a plan could not be looked at; tried again'),
            );
        }
        for (const { id } of (await partsToFollow(this.db)).filter(p => p.network === network)) {
          if (turn.stopped()) return;
          await this.one(id).catch((error: unknown) =>
            log.error({ err: error, part: id }, 'a booking could not be followed; tried again'),
          );
        }
      },
    });
  }

  /** Orders of parts that were packed, opened again, or left by a departure. */
  private async ofStages(tx: Tx, rows: readonly StagePassed[]): Promise<void> {
    const ids = [...new Set(rows.map(r => r.orderId))];
    if (ids.length === 0) return;
    for (const { id, departed } of await partsOfOrders(tx, ids)) {
      const { shipment, part } = await lockPart(tx, id);
      if (departed && !part.leftAt) await this.bookings.left(tx, shipment, part);
      else await refreshPart(tx, id);
    }
  }

  /** The order of a part was packed just now, and nobody has told it yet. */
  packed(partId: string): Promise<void> {
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      await lockPart(tx, partId);
      await refreshPart(tx, partId);
    });
  }

  /** Asks what became of all bookings of a shipment, now. */
  async now(no: string): Promise<void> {
    const { id } = await shipmentBy(this.db, no);
    await this.plans.look(no);
    for (const part of await this.db.of(InboundPart).findBy({ shipmentId: id })) await this.one(part.id);
  }

  /** Asks what became of one booking. One that nobody knows of is asked for again under its key. */
  async one(partId: string): Promise<void> {
    const part = (await this.db.of(InboundPart).findOneBy({ id: partId }))!;
    const nobody = { personId: null, at: new Date() };
    if (part.bookState === 'asked' || part.bookState === 'unknown')
      return this.bookings.ask(partId, part.bookKey!, nobody);
    if (part.bookState !== 'booked') return;
    const { network } = (await this.db.of(InboundShipment).findOneBy({ id: part.shipmentId }))!;
    const answer = await this.centers.booking(network, part.bookKey!);
    if (answer.kind !== 'answered') return;
    const told = answer.value;
    if (told.state === 'cancelled' && !part.leftAt)
      return this.db.tx(nobody, tx => this.bookings.calledOff(tx, partId, part.bookKey!));
    if (told.state === 'booked' && part.leftAt) await this.centers.tellLeft(network, part.bookKey!);
    if (part.leftAt) await this.db.tx(nobody, tx => this.take(tx, partId, told));
  }

  /** Takes what a network tells of a booking; told twice it counts once. */
  private async take(tx: Tx, partId: string, told: NetworkBooking): Promise<void> {
    const { shipment, part } = await lockPart(tx, partId);
    if (part.stage === 'Closed' || part.stage === 'Cancelled') return;
    const known = new Set((await tx.of(InboundEvent).findBy({ partId })).map(e => e.code));
    for (const e of told.events.filter(e => !known.has(e.id))) {
      await tell(tx, shipment.id, e.says, { partId, code: e.id, at: new Date(e.at), sscc: e.sscc });
      if (e.late) await tx.of(InboundPart).update(partId, { late: e.late });
    }
    if (told.counted.length > 0) await this.count(tx, shipment, part, told.counted);
    const stage = STAGE_OF[told.state];
    if (stage) await bringTo(tx, part, stage);
    if (told.state === 'counted' && !part.countedAt) await this.close(tx, shipment, part);
    await tx.tell('inbound', `IN-${shipment.no}`);
  }

  /** Units counted since the last time go from the way into the center, as far as they lie there. */
  private async count(
    tx: Tx,
    shipment: InboundShipment,
    part: InboundPart,
    counted: NetworkBooking['counted'],
  ): Promise<void> {
    const skus = await this.catalog.skusWithParts(tx, [...new Set(counted.map(c => c.code))]);
    const bySku = new Map([...skus.values()].map(p => [p.sku, p.id]));
    const before = await countedBefore(tx, part.id);
    const fresh = new Map<string, number>();
    for (const c of sums(counted)) {
      const productId = bySku.get(c.code) ?? null;
      const more = c.units - (before.find(b => b.sscc === c.sscc && b.code === c.code)?.units ?? 0);
      if (more <= 0) continue;
      await tx.upsert(InboundCount, [{ partId: part.id, ...c, productId }], ['units']);
      if (productId) fresh.set(productId, (fresh.get(productId) ?? 0) + more);
    }
    if (fresh.size === 0) return;
    await lockAll(tx, { productStock: [...fresh.keys()] });
    const { id: warehouseId } = await this.house.warehouse(tx);
    const to = await this.places.centerPlace(tx, warehouseId, {
      network: shipment.network,
      center: part.center,
    });
    await this.stock.apply(tx, {
      moves: movesFrom(await lyingAt(tx, part.placeId!), fresh, part, to, 'count in'),
    });
    await tx.tell('stock', shipment.id);
  }

  /** All is counted: what does not agree is noted, and the part is closed when nothing is left to decide. */
  private async close(tx: Tx, shipment: InboundShipment, part: InboundPart): Promise<void> {
    const boxes = await boxesOf(tx, part.orderId!);
    const sent = await contentsOf(
      tx,
      boxes.map(b => b.id),
    );
    const lines = [
      ...sent.map(s => ({
        box: boxes.find(b => b.id === s.parcelId)!.sscc!,
        sku: s.sku,
        sent: s.units,
        counted: 0,
      })),
      ...(await countedBefore(tx, part.id)).map(c => ({
        box: c.sscc,
        sku: c.code,
        sent: 0,
        counted: c.units,
      })),
    ];
    const { differences, ...sum } = reconcileCount(lines);
    const products = await this.catalog.skusWithParts(tx, [...new Set(differences.map(d => d.sku))]);
    const ids = new Map([...products.values()].map(p => [p.sku, p.id]));
    if (differences.length > 0)
      await tx.insert(
        InboundDifference,
        differences.map(d => ({
          id: newId(),
          partId: part.id,
          sscc: d.box,
          code: d.sku,
          productId: ids.get(d.sku) ?? null,
          missing: d.missing,
          surplus: d.surplus,
          stranger: d.stranger,
        })),
      );
    await tx.of(InboundPart).update(part.id, { countedAt: tx.at });
    await tell(tx, shipment.id, `${part.center} counted ${sum.counted} of ${sum.sent} units.`, {
      partId: part.id,
    });
    if (differences.length === 0) await bringTo(tx, part, 'Closed');
  }

  /** Decides a difference: missing units are claimed or written off, surplus ones are booked, each with its reason. */
  async decide(id: string, { as, reason }: DecideDifference, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const seen = await tx.of(InboundDifference).findOneBy({ id });
      if (!seen) throw new NotHere('That difference', 'Open the shipment anew under Inbound.');
      const { shipment, part } = await lockPart(tx, seen.partId);
      const d = (await tx.of(InboundDifference).findOneBy({ id }))!;
      if (d.state !== 'open') {
        if (d.state === as) return;
        throw new Forbidden(`It was decided already: ${d.state}.`, 'Open the shipment anew under Inbound.');
      }
      if (d.missing > 0 === (as === 'booked'))
        throw new Forbidden(
          d.missing > 0
            ? 'Missing units cannot be booked.'
            : 'Surplus units are neither claimed nor written off.',
          d.missing > 0 ? 'Claim them, or write them off.' : 'Book them with a reason.',
        );
      if (d.productId) await this.move(tx, shipment, part, d, reason);
      await tx
        .of(InboundDifference)
        .update(id, { state: as, reason, decidedAt: tx.at, personId: tx.personId });
      const units = d.missing > 0 ? `${d.missing} missing` : `${d.surplus} too many`;
      await tell(tx, shipment.id, `${d.code}, ${units}: ${as}. ${reason}`, { partId: part.id, sscc: d.sscc });
      const open = await tx.of(InboundDifference).countBy({ partId: part.id, state: 'open' });
      if (open === 0) await bringTo(tx, part, 'Closed');
      await tx.tell('inbound', `IN-${shipment.no}`);
    });
  }

  private async move(
    tx: Tx,
    { network }: InboundShipment,
    part: InboundPart,
    d: InboundDifference,
    reason: string,
  ): Promise<void> {
    const productId = d.productId!;
    await lockAll(tx, { productStock: [productId] });
    const { id: warehouseId } = await this.house.warehouse(tx);
    const center = await this.places.centerPlace(tx, warehouseId, { network, center: part.center });
    const moves =
      d.missing > 0 ? await this.lost(tx, part, d, reason) : await this.surplus(tx, part, d, center, reason);
    await this.stock.apply(tx, { moves });
  }

  private async lost(tx: Tx, part: InboundPart, d: InboundDifference, reason: string): Promise<Move[]> {
    const lies = (await lyingAt(tx, part.placeId!)).filter(l => l.productId === d.productId);
    const gone = await this.house.place(tx, 'gone');
    return movesFrom(lies, new Map([[d.productId!, d.missing]]), part, gone, 'lost on the way', reason);
  }

  /** What was counted beyond all that was sent of a product comes from outside; what only lay in another box is there already. */
  private async surplus(
    tx: Tx,
    part: InboundPart,
    d: InboundDifference,
    center: string,
    reason: string,
  ): Promise<Move[]> {
    const { sent, counted, booked } = (await surplusOf(tx, part.id, d.productId!))!;
    const quantity = Math.min(d.surplus, counted - sent - booked);
    if (quantity <= 0) return [];
    const from = await this.house.place(tx, 'outside');
    const common = { productId: d.productId!, lotId: null, why: 'surplus at center', causeId: part.id };
    return [{ ...common, from, to: center, quantity, reason }];
  }
}

/** Moves of so many units of products out of what lies in a place, never more than lies there. */
function movesFrom(
  lies: readonly { productId: string; lotId: string | null; units: number }[],
  units: ReadonlyMap<string, number>,
  part: InboundPart,
  to: string,
  why: string,
  reason = '',
): Move[] {
  const left = new Map(units);
  return lies.flatMap((l): Move[] => {
    const n = Math.min(l.units, left.get(l.productId) ?? 0);
    if (n === 0) return [];
    left.set(l.productId, left.get(l.productId)! - n);
    const { productId, lotId } = l;
    return [{ productId, lotId, from: part.placeId!, to, quantity: n, why, causeId: part.id, reason }];
  });
}

/** Counts of one box and code added up. */
function sums(counted: NetworkBooking['counted']): NetworkBooking['counted'] {
  const all = new Map<string, NetworkBooking['counted'][number]>();
  for (const c of counted) {
    const key = `${c.sscc} ${c.code}`;
    all.set(key, { ...c, units: (all.get(key)?.units ?? 0) + c.units });
  }
  return [...all.values()];
}
