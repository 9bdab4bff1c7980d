import {
  type Address,
  addBusinessDays,
  type Box,
  billedAs,
  makeS10,
  nextDeparture,
  planBoxes,
  type Rated,
  rate,
} from '@auk/core';
import { CARRIERS, WAREHOUSE } from '@auk/demo';
import { Injectable } from '@nestjs/common';
import { fromJson, NONE, newId, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { PackingService } from '../packing/packing.module.js';
import type { Product } from '../products/products.module.js';
import { CatalogService } from '../products/products.module.js';
import { leaveWith, refreshStages } from '../records/records.module.js';
import { zonePlace } from '../reference/postcodes.js';
import { type HoldChange, type Move, StockService } from '../stock/stock.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';

interface PickedUnits {
  partId: string;
  orderId: string;
  productId: string;
  stopKey: string;
  quantity: number;
  toteId: string;
  lotId: string | null;
}

export interface PastParcel {
  id: string;
  no: number;
  orderId: string;
}

/** Packing and labels of the demo's past, many orders in one go; labels of the past are invented and stand in no carrier's books. */
@Injectable()
export class PackedPast {
  private serial = 10_000_000;

  constructor(
    private readonly catalog: CatalogService,
    private readonly stock: StockService,
    private readonly packing: PackingService,
    private readonly planner: DeparturePlanner,
  ) {}

  /** Packs everything picked of the orders, one closed parcel each. */
  async pack(tx: Tx, orderIds: readonly string[]): Promise<PastParcel[]> {
    const units = await tx.rows<PickedUnits>(
      `SELECT a.partId, a.orderId, a.productId, a.stopKey, a.quantity, s.toteId, s.lotId FROM allocation a JOIN pickStop s ON s.id = a.stopKey
       WHERE a.orderId IN (?) AND a.hold = 'picked' AND a.parcelKey = ? AND a.quantity > 0`,
      [[...orderIds], NONE],
    );
    const heads = await tx.rows<{ id: string; warehouseId: string; shipmentId: string }>(
      'SELECT o.id, o.warehouseId, s.id AS shipmentId FROM orders o JOIN shipment s ON s.orderId = o.id WHERE o.id IN (?)',
      [[...orderIds]],
    );
    const made = heads.map(h => ({ ...h, parcelId: newId(), placeId: newId() }));
    await tx.insert(
      'place',
      made.map(m => ({
        id: m.placeId,
        warehouseId: m.warehouseId,
        code: `P-${m.parcelId.slice(-12)}`,
        kind: 'parcel',
      })),
    );
    await tx.insert(
      'parcel',
      made.map(m => ({
        id: m.parcelId,
        orderId: m.id,
        shipmentId: m.shipmentId,
        placeId: m.placeId,
        openedAt: tx.at,
      })),
    );
    const { moves, holds } = packedUnits(units, new Map(made.map(m => [m.id, m])));
    await lockAll(tx, {
      orders: holds.map(h => h.orderId),
      productStock: moves.map(m => m.productId),
    });
    await this.stock.apply(tx, { moves, holds });
    const [products, boxes] = [
      await this.catalog.products(tx, [...new Set(units.map(u => u.productId))]),
      await this.catalog.boxes(tx),
    ];
    for (const m of made) {
      const { box, weightMg } = boxed(
        units.filter(u => u.orderId === m.id),
        products,
        boxes,
      );
      await this.packing.close(tx, { id: m.parcelId, orderId: m.id }, { boxCode: box.code, weightMg }, true);
    }
    const numbers = await tx.rows<{ id: string; no: number; orderId: string }>(
      'SELECT id, no, orderId FROM parcel WHERE id IN (?)',
      [made.map(m => m.parcelId)],
    );
    return numbers;
  }

  /** What carriers tell of the parcels that left: most have arrived, some of the latest are in trouble. */
  async follow(tx: Tx): Promise<void> {
    await tx.run(
      `UPDATE trackedParcel t JOIN label b ON b.id = t.labelId SET t.expected = b.arrives, t.askAt = IF(b.arrives < DATE(?), NULL, ? + INTERVAL 1 HOUR), t.state = IF(b.arrives < DATE(?), 'delivered', 'on the way'),
         t.says = IF(b.arrives < DATE(?), 'Delivered', 'Sorted'), t.since = IF(b.arrives < DATE(?), TIMESTAMP(b.arrives, '18:00:00'), GREATEST(t.leftAt, ? - INTERVAL 5 HOUR))`,
      Array(6).fill(tx.at),
    );
    await tx.run(
      `INSERT INTO trackingEvent (labelId, code, at, kind, says, place) SELECT labelId, 'collected', leftAt, 'collected', 'Collected', 'Zanesville' FROM trackedParcel
       UNION ALL SELECT labelId, 'sorted', IF(state = 'delivered', leftAt + INTERVAL 6 HOUR, since), 'on the way', 'Sorted', 'Columbus' FROM trackedParcel
       UNION ALL SELECT labelId, 'delivered', since, 'delivered', 'Delivered', '' FROM trackedParcel WHERE state = 'delivered'`,
    );
    const latest = await tx.rows<{ labelId: string }>(
      'SELECT t.labelId FROM trackedParcel t JOIN label b ON b.id = t.labelId WHERE t.leftAt < ? - INTERVAL 4 DAY ORDER BY t.leftAt DESC, t.labelId LIMIT 4',
      [tx.at],
    );
    for (const [i, { labelId }] of latest.entries()) {
      const [kind, says, hours] = WRONG[i]!;
      const since = new Date(tx.at.getTime() - hours * 3_600_000);
      await tx.run("DELETE FROM trackingEvent WHERE labelId = ? AND code = 'delivered'", [labelId]);
      await tx.run('UPDATE trackedParcel SET state = ?, says = ?, since = ? WHERE labelId = ?', [
        kind,
        says,
        since,
        labelId,
      ]);
      if (kind === 'on the way')
        await tx.run("UPDATE trackingEvent SET at = ? WHERE labelId = ? AND code = 'sorted'", [
          since,
          labelId,
        ]);
      else await tx.insert('trackingEvent', [{ labelId, code: kind, at: since, kind, says, place: 'Depot' }]);
    }
  }

  /** Gives each parcel a bought label of its planned carrier, at that carrier's price, and a departure after `tx.at`. */
  async label(tx: Tx, parcels: readonly PastParcel[]): Promise<void> {
    const rows = await tx.rows<PastRow>(
      'SELECT c.id, c.orderId, c.weightMg, b.length, b.width, b.height, o.shipTo FROM parcel c JOIN box b ON b.code = c.boxCode JOIN orders o ON o.id = c.orderId WHERE c.id IN (?)',
      [parcels.map(p => p.id)],
    );
    const open = await this.planner.open(tx, tx.at);
    const bought = rows.map(r => {
      const { carrier, rated } = cheapest(r);
      const tracking = carrier.tracking === 'S10' ? makeS10('HQ', ++this.serial, 'US') : `RE${++this.serial}`;
      return {
        r,
        carrier,
        rated,
        tracking,
        departure: nextDeparture(open, carrier.code, tx.at.toISOString()),
      };
    });
    await tx.insert(
      'label',
      bought.map(b => labelRow(b, tx.at)),
    );
    for (const b of bought) {
      await tx.run('UPDATE parcel SET departureId = ? WHERE id = ?', [b.departure?.id ?? null, b.r.id]);
      await leaveWith(tx, [b.r.orderId], b.departure?.id ?? null);
    }
    await refreshStages(
      tx,
      rows.map(r => r.orderId),
    );
  }
}

/** What went wrong with some parcels of the past, and how many hours ago it was told. */
const WRONG: [kind: string, says: string, hours: number][] = [
  ['exception', 'Nobody of that name at this address', 20],
  ['coming back', 'Sent back to the sender', 30],
  ['on the way', 'Sorted', 140],
  ['exception', 'Held up by the weather', 26],
];

/** What a parcel that no service takes went for. */
const DEAREST: Rated = {
  service: 'ground',
  name: 'Redfen Ground',
  minor: 4200,
  charges: [{ name: 'by agreement', minor: 4200 }],
  billable: { mg: 0, says: 'by agreement', why: 'weight' },
  zone: '',
  days: 4,
};

/** A parcel of the past costs this much beside its box, so that one order was one parcel. */
const WAY_MINOR = 1_000;

/** One box that takes all of it, or the largest; weight by products and box. */
function boxed(
  units: readonly PickedUnits[],
  products: Map<string, Product>,
  boxes: readonly Box[],
): { box: Box; weightMg: number } {
  const pieces = units.map(u => ({
    id: u.productId,
    size: products.get(u.productId)!.size!,
    weightMg: products.get(u.productId)!.weightMg!,
    quantity: u.quantity,
  }));
  const plan = planBoxes(boxes, pieces, { cost: b => WAY_MINOR + b.priceMinor, steps: 500 });
  const box = plan.parcels.length === 1 ? plan.parcels[0]!.box : boxes.at(-1)!;
  return {
    box,
    weightMg: Math.max(10_000, box.tareMg + pieces.reduce((n, p) => n + p.weightMg * p.quantity, 0)),
  };
}

/** A parcel of the past as it was rated. */
interface PastRow {
  id: string;
  orderId: string;
  weightMg: number;
  length: number;
  width: number;
  height: number;
  shipTo: string;
}

/** The planned carrier of a parcel, and its cheapest service. */
function cheapest(r: PastRow) {
  const carrier = CARRIERS.find(c => r.weightMg <= (c.planUpToMg ?? 0)) ?? CARRIERS[1]!;
  const to = fromJson<Address>(r.shipTo);
  const parcel = {
    size: r,
    weightMg: r.weightMg,
    from: zonePlace(WAREHOUSE.country, WAREHOUSE.postcode),
    to: zonePlace(to.country, to.postcode),
    residential: to.company === '',
  };
  const rated = carrier.accounts[0]!.sheet.services.flatMap(s => {
    const got = rate(s, parcel);
    return got.ok ? [got.value] : [];
  }).sort((a, b) => a.minor - b.minor)[0];
  return { carrier, rated: rated ?? DEAREST };
}

function labelRow(
  { r, carrier, rated, tracking }: ReturnType<typeof cheapest> & { r: PastRow; tracking: string },
  at: Date,
) {
  return {
    id: newId(),
    parcelId: r.id,
    state: 'bought',
    carrier: carrier.code,
    carrierName: carrier.name,
    service: rated.service,
    serviceName: rated.name,
    minor: rated.minor,
    chargedMinor: rated.minor,
    currency: carrier.accounts[0]!.sheet.currency,
    zone: rated.zone,
    billable: billedAs(rated.billable),
    charges: JSON.stringify(rated.charges),
    request: '{}',
    arrives: addBusinessDays(at.toISOString().slice(0, 10), rated.days),
    tracking,
    routing: `${fromJson<Address>(r.shipTo).postcode.slice(0, 3)} Z${rated.zone}`,
    intendedAt: at,
    askedAt: at,
    answeredAt: at,
  };
}

/** Everything that was picked of orders goes out of its totes into their parcels. */
function packedUnits(
  units: readonly PickedUnits[],
  of: ReadonlyMap<string, { parcelId: string; placeId: string }>,
): { moves: Move[]; holds: HoldChange[] } {
  const moves = units.map(
    (u): Move => ({
      productId: u.productId,
      lotId: u.lotId,
      from: u.toteId,
      to: of.get(u.orderId)!.placeId,
      quantity: u.quantity,
      why: 'pack',
      causeId: of.get(u.orderId)!.parcelId,
    }),
  );
  const holds = units.flatMap((u): HoldChange[] => {
    const common = {
      partId: u.partId,
      orderId: u.orderId,
      productId: u.productId,
      stopId: u.stopKey,
      why: 'pack',
    };
    return [
      { ...common, hold: 'picked', parcelId: null, change: -u.quantity },
      { ...common, hold: 'packed', parcelId: of.get(u.orderId)!.parcelId, change: u.quantity },
    ];
  });
  return { moves, holds };
}
