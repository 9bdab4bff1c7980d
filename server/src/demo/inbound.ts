import type { InboundWays } from '@auk/contract';
import { FERNWAY } from '@auk/demo';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, newId, type Tx } from '../database/db.js';
import {
  InboundBookings,
  InboundDrafts,
  InboundFollowing,
  InboundPreparing,
  InboundReserving,
  InboundViews,
  InboundWaysService,
} from '../inbound/inbound.module.js';
import { PackingService, PackPlans } from '../packing/packing.module.js';
import { Parcels } from '../parcels/parcels.module.js';
import { ListRelease, PickingService } from '../picking/picking.module.js';
import { Places } from '../stock/stock.module.js';
import { headOf, partsOf, partsToPack } from './standins.queries.js';

/** How far a shipment of the demo is, beyond its draft. */
type Until = 'Draft' | 'Boxed' | 'Booked' | 'Travelling' | 'At dock' | 'Counting in' | 'Closed' | 'Cancelled';

interface Wanted {
  lines: [sku: string, units: number][];
  placement?: 'one dock' | 'spread';
  until: Until;
  /** It is picked and waits to be prepared. */
  picked?: boolean;
  /** Units by SKU that the center counts more or fewer than were sent. */
  off?: Record<string, number>;
}

const SHIPMENTS: Wanted[] = [
  {
    lines: [
      ['QTB-MRK', 40],
      ['GRF-TOOL', 30],
    ],
    until: 'Closed',
  },
  { lines: [['FRM-PRC', 12]], until: 'Cancelled' },
  {
    lines: [
      ['MLD-TAP', 24],
      ['WCK-COT', 30],
    ],
    until: 'Counting in',
    off: { 'WCK-COT': -2 },
  },
  {
    lines: [
      ['STR-600', 18],
      ['QCG-PLS', 60],
    ],
    until: 'At dock',
  },
  {
    lines: [
      ['RFR-HND', 12],
      ['GTE-HNY', 36],
    ],
    until: 'Travelling',
  },
  {
    lines: [
      ['BTL-TRP', 48],
      ['QPN-WHT', 40],
    ],
    until: 'Booked',
  },
  {
    lines: [
      ['QPN-YEL', 60],
      ['ENT-RED', 40],
      ['HAT-STR', 40],
    ],
    placement: 'spread',
    until: 'Booked',
  },
  { lines: [['MLD-SKEP', 20]], until: 'Boxed' },
  {
    lines: [
      ['JAR-MUT-08', 12],
      ['KNF-SER-12', 6],
      ['SYR-1GL', 4],
    ],
    until: 'Draft',
    picked: true,
  },
  {
    lines: [
      ['JAR-HEX-12', 48],
      ['QCG-PLS', 40],
      ['MSE-GRD', 20],
      ['BRS-BEE', 24],
    ],
    until: 'Draft',
  },
];

const HAPPENS: Partial<Record<Until, string[]>> = {
  Travelling: ['late'],
  'At dock': ['at dock'],
  'Counting in': ['at dock', 'counted'],
  Closed: ['at dock', 'counted'],
};

/** Shipments of the demo, one in each stage, by the services' own acts and the stand-in network's answers. */
@Injectable()
export class InboundDemo {
  constructor(
    private readonly db: Db,
    private readonly drafts: InboundDrafts,
    private readonly ways: InboundWaysService,
    private readonly reserving: InboundReserving,
    private readonly preparing: InboundPreparing,
    private readonly bookings: InboundBookings,
    private readonly following: InboundFollowing,
    private readonly views: InboundViews,
    private readonly releases: ListRelease,
    private readonly picking: PickingService,
    private readonly packing: PackingService,
    private readonly plans: PackPlans,
    private readonly parcels: Parcels,
    private readonly places: Places,
  ) {}

  /** Begins when the stand-ins listen at `standins`. */
  async load(standins: string, doer: Doer, lateUntil: string): Promise<number> {
    for (const wanted of SHIPMENTS) await this.one(wanted, standins, doer, lateUntil);
    return SHIPMENTS.length;
  }

  private async one(wanted: Wanted, standins: string, doer: Doer, lateUntil: string): Promise<void> {
    const { name: network } = FERNWAY;
    const no = await this.drafts.create({ key: newId(), network, source: 'house', storage: 'near' }, doer);
    for (const [sku, units] of wanted.lines)
      await this.drafts.setLine(no, { sku, units, inCases: false, by: 'us' }, doer);
    await this.drafts.askCodes(no, doer);
    if (wanted.until === 'Draft' && !wanted.picked) return;
    if (wanted.until === 'Cancelled') return this.reserving.cancel(no, newId(), doer);
    // No more goes than is here.
    for (const l of (await this.views.one(no)).lines)
      if (l.free < l.units)
        await this.drafts.setLine(no, { sku: l.sku, units: l.free, inCases: false, by: 'us' }, doer);
    const { table } = await this.ways.compare(no);
    await this.ways.choose(no, theirs(table, wanted.placement ?? 'one dock'), doer);
    await this.reserving.reserve(no, newId(), doer);
    const parts = await partsOf(this.db, no);
    if (wanted.picked) {
      for (const part of parts) await this.db.tx(doer, tx => this.pick(tx, part.orderId!));
      return;
    }
    for (const { sku, units, needs } of (await this.views.one(no)).lines)
      if (needs.length > 0)
        await this.preparing.prepared(no, { key: newId(), sku, done: units, spoiled: 0 }, doer);
    for (const part of parts) {
      await this.db.tx(doer, tx => this.pack(tx, part.orderId!));
      await this.following.packed(part.id);
      if (wanted.until !== 'Boxed') await this.goOn(part.id, wanted, standins, doer, lateUntil);
    }
  }

  private async pick(tx: Tx, orderId: string): Promise<void> {
    const list = await this.releases.release(tx, [orderId]);
    await this.picking.takeAll(tx, list.id);
  }

  /** Picks an order and packs it into the boxes that were planned. */
  private async pack(tx: Tx, orderId: string): Promise<void> {
    await this.pick(tx, orderId);
    const plan = (await this.plans.of(tx, orderId))!;
    const head = (await headOf(tx, orderId))!;
    const parts = await partsToPack(tx, orderId);
    for (const [i, box] of plan.boxes.entries()) {
      const id = newId();
      const placeId = await this.places.makeForParcel(tx, head.warehouseId, id);
      await this.parcels.open(tx, [{ id, orderId, shipmentId: head.shipmentId, placeId, seq: i + 1 }]);
      let weightMg = 400_000;
      for (const part of parts.filter(p => box.holds[p.sku])) {
        await this.packing.pack(tx, { id, placeId, orderId }, part.id, box.holds[part.sku]!);
        weightMg += box.holds[part.sku]! * part.weightMg;
      }
      const last = i === plan.boxes.length - 1;
      await this.packing.close(tx, { id, orderId }, { boxCode: box.code, weightMg }, last);
    }
  }

  /** Books a part, lets it leave, and lets come to pass there what is to come to pass. */
  private async goOn(
    partId: string,
    wanted: Wanted,
    standins: string,
    doer: Doer,
    late: string,
  ): Promise<void> {
    const key = newId();
    try {
      const { minor } = await this.bookings.price(partId, doer);
      await this.bookings.book(partId, key, minor, doer);
    } catch {
      // A center that takes nothing now: its part waits, and says so.
      return;
    }
    if (wanted.until === 'Booked') return;
    await this.bookings.leave(partId, doer);
    for (const what of HAPPENS[wanted.until] ?? [])
      await fetch(`${standins}/${FERNWAY.path}/bookings/${key}/happens`, {
        method: 'POST',
        body: JSON.stringify({ what, late, off: wanted.off ?? {} }),
      });
    await this.following.one(partId);
  }
}

function theirs(table: InboundWays['table'], placement: 'one dock' | 'spread') {
  const { form, carrier, rates } = table.ways.find(
    w =>
      w.network === FERNWAY.name && w.placement === placement && w.rates === 'theirs' && w.form === 'parcels',
  )!;
  return { placement, form, carrier, rates };
}
