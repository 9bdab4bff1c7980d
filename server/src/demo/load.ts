import { nextDeparture, type ReceivedOrder, seeded } from '@auk/core';
import {
  CAPS,
  CATALOGUE,
  CHANNELS,
  COMPANY_PREFIX,
  DEMO_PIN,
  type DemoOrder,
  makeOrders,
  NETWORKS,
  TIMETABLE,
  WAREHOUSE,
} from '@auk/demo';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { CarriersService } from '../carriers/carriers.module.js';
import { ChannelsService } from '../channels/channels.module.js';
import { Db, newId, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HandoverService } from '../departures/departures.module.js';
import { Centers } from '../elsewhere/elsewhere.module.js';
import { OrderIntake } from '../intake/intake.module.js';
import { Builds } from '../kits/kits.module.js';
import { OrdersService } from '../orders/orders.module.js';
import { hashPin } from '../people/people.module.js';
import { ListRelease, PickingService } from '../picking/picking.module.js';
import { PurchaseOrders } from '../receiving/receiving.module.js';
import { leaveWith } from '../records/records.module.js';
import { RuleBooks, RuleMoments, Spending } from '../rules/rules.module.js';
import { type Move, StockService } from '../stock/stock.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { loadBenches } from './benches.js';
import { connectCarriers } from './carriers.js';
import { type CatalogueIds, insertCatalogue } from './catalogueRows.js';
import { demandOf, PURCHASES, SCARCE } from './demand.js';
import { type HouseIds, insertHouse } from './houseRows.js';
import { connectMail, type MailAt } from './mails.js';
import { PackedPast, type PastParcel } from './past.js';
import { demoBook } from './rules.js';
import { spoil } from './spoil.js';
import { movePrinters } from './standins.queries.js';

/** How much demo to make. */
export interface DemoSize {
  pastOrders: number;
  openOrders: number;
  /** Address of the stand-ins, where the channels are connected. */
  standins: string;
  /** Whether the house has its rule book already, run on the orders of the day. */
  rules?: boolean;
  /** Host and port of the stand-in of a scale. */
  scaleAt?: string;
}

const SEED = 20_261;
const PAST_DAYS = 30;
const TOTES_A_LIST = 12;
const DAY_MS = 86_400_000;

/** Loads the demo company: its house, its catalogue, a past and a day at work. Quantities change only by the services' own functions; picks are taken list by list, labels are invented. */
@Injectable()
export class DemoLoader {
  private ids!: HouseIds & CatalogueIds;

  constructor(
    private readonly db: Db,
    private readonly intake: OrderIntake,
    private readonly orders: OrdersService,
    private readonly planner: DeparturePlanner,
    private readonly carriers: CarriersService,
    private readonly stock: StockService,
    private readonly releases: ListRelease,
    private readonly picking: PickingService,
    private readonly handovers: HandoverService,
    private readonly past: PackedPast,
    private readonly channels: ChannelsService,
    private readonly purchases: PurchaseOrders,
    private readonly builds: Builds,
    private readonly books: RuleBooks,
    private readonly moments: RuleMoments,
    private readonly spending: Spending,
    private readonly centers: Centers,
  ) {}

  /** Loads everything as of `now`. */
  async load(size: DemoSize, now: Date, say: (text: string) => void = () => undefined): Promise<void> {
    const long = (days: number) => new Date(now.getTime() - days * DAY_MS);
    const pinHash = await hashPin(DEMO_PIN);
    await this.at(long(PAST_DAYS + 5), async tx => {
      await tx.insert('setting', [
        { name: 'origin', value: JSON.stringify('demo') },
        { name: 'companyPrefix', value: JSON.stringify(COMPANY_PREFIX) },
      ]);
      const house = await insertHouse(tx, pinHash);
      await connectCarriers(tx, this.carriers, size.standins);
      await this.planner.materialise(tx, tx.at, PAST_DAYS + 14);
      this.ids = { ...house, ...(await insertCatalogue(tx)) };
    });
    const past = makeOrders(SEED, size.pastOrders, 10_001, long(1).toISOString());
    const open = spoil(makeOrders(SEED + 1, size.openOrders, 20_401, now.toISOString()));
    await this.at(long(PAST_DAYS + 4), tx => this.receive(tx, [...past, ...open]));
    say(`${CATALOGUE.length} products received`);
    await this.livePast(past, long);
    say(`${past.length} past orders`);
    await this.liveToday(open, now);
    say(`${open.length} orders of today`);
    await this.awaited(now);
    await this.connect(size.standins, now);
    await this.at(now, tx => loadBenches(tx, size.standins, size.scaleAt ?? null));
    await this.at(now, tx => this.past.follow(tx));
    await this.db.run("UPDATE job SET state = 'done' WHERE state = 'waiting'");
    // What came to pass in the past is told to nobody.
    await this.db.run('DELETE FROM stagePassed');
    await this.db.run(
      "UPDATE departure d SET d.state = 'closed', d.closedAt = d.cutOff WHERE d.cutOff < ? AND NOT EXISTS (SELECT 1 FROM parcel p WHERE p.departureId = d.id AND p.departedAt IS NULL)",
      [now],
    );
    await this.at(now, tx => this.replan(tx));
    if (size.rules) await this.rules(now, say);
  }

  /** Writes the rule book and runs it on what is open. */
  private async rules(now: Date, say: (text: string) => void): Promise<void> {
    const doer = { personId: null, at: now };
    await this.books.save(0, demoBook(), 'The first sentences', doer);
    await this.spending.setCaps(CAPS, doer);
    const open = await this.db.rows<{ id: string }>(
      'SELECT id FROM orders WHERE isOpen = 1 AND draftedAt IS NULL',
    );
    const done = await this.moments.again(
      open.map(o => o.id),
      doer,
    );
    say(`rules run on ${done.length} orders`);
  }

  /** What stood on a collection that has gone since waits for the carrier's next one. */
  private async replan(tx: Tx): Promise<void> {
    const open = await this.planner.open(tx, tx.at);
    const left = await tx.rows<{ id: string; carrier: string }>(
      "SELECT o.id, d.carrier FROM orders o JOIN departure d ON d.id = o.departureId AND d.state = 'closed' WHERE o.isOpen ORDER BY o.id",
    );
    for (const carrier of new Set(left.map(o => o.carrier)))
      await leaveWith(
        tx,
        left.filter(o => o.carrier === carrier).map(o => o.id),
        nextDeparture(open, carrier, tx.at.toISOString())?.id ?? null,
      );
  }

  /** Connects the four channels to their stand-ins. */
  private async connect(standins: string, now: Date): Promise<void> {
    for (const c of CHANNELS)
      await this.channels.connect(
        c.code,
        {
          kind: c.kind,
          address: `${standins}/channels/${c.code}`,
          key: `${c.code}-demo-key`,
          everyMinutes: 5,
          active: true,
        },
        { personId: null, at: now },
      );
  }

  /** Stand-ins listen on another port at every start: channels connected to them follow. */
  async moveStandins(standins: string, scaleAt: string, mailAt: MailAt | null): Promise<void> {
    await this.db.run(
      "UPDATE channelLink l JOIN channel c ON c.id = l.channelId SET l.address = CONCAT(?, '/channels/', c.code) WHERE l.address LIKE 'http://127.0.0.1:%/channels/%'",
      [standins],
    );
    await this.at(new Date(), async tx => {
      await movePrinters(tx, standins, scaleAt);
      await connectCarriers(tx, this.carriers, standins);
      if (mailAt) await connectMail(tx, mailAt);
    });
    for (const { name, key, path } of NETWORKS)
      await this.centers.connect(
        { name, key, address: `${standins}/${path}` },
        { personId: null, at: new Date() },
      );
  }

  private at<T>(at: Date, work: (tx: Tx) => Promise<T>): Promise<T> {
    return this.db.tx({ personId: null, at }, work);
  }

  /** Receives what past and open orders take, and something over; of two products too little, so that some orders are Short. */
  private async receive(tx: Tx, orders: readonly DemoOrder[]): Promise<void> {
    const random = seeded(SEED + 2);
    const wanted = demandOf(orders);
    const stocked = CATALOGUE.filter(p => p.kind !== 'bundle');
    const moves = stocked.flatMap((p, i): Move[] => {
      const spare = SCARCE.has(p.sku) ? -6 : 15 + Math.floor(random() * 80);
      const total = Math.max(1, (wanted.get(p.sku) ?? 0) + spare);
      const home = this.ids.bins[(i * 7) % this.ids.bins.length]!;
      const reserve = this.ids.reserves[(i * 5 + 2) % this.ids.reserves.length]!;
      const first = total > 60 ? Math.ceil(total * 0.8) : total;
      const put = (to: string, quantity: number): Move => ({
        productId: this.ids.products.get(p.sku)!,
        lotId: null,
        from: this.ids.outside,
        to,
        quantity,
        why: 'receive',
        causeId: null,
      });
      return total > first ? [put(home, first), put(reserve, total - first)] : [put(home, first)];
    });
    await lockAll(tx, { productStock: moves.map(m => m.productId) });
    await this.stock.apply(tx, { moves: await this.inLots(tx, moves) });
  }

  /** Gives what is kept in lots its lots: most of the one that expires in some weeks, the rest of a later one; a few expired ones lie in quarantine. */
  private async inLots(tx: Tx, moves: readonly Move[]): Promise<Move[]> {
    const day = (days: number) => new Date(tx.at.getTime() + days * DAY_MS).toISOString().slice(0, 10);
    const lotted = new Map(
      CATALOGUE.filter(p => p.facts.lots).map((p, i) => [this.ids.products.get(p.sku)!, 310 + i * 7]),
    );
    const lots = [...lotted].flatMap(([productId, n]) =>
      [
        ['A', PAST_DAYS - 6],
        ['B', PAST_DAYS + 42],
        ['C', PAST_DAYS + 400],
      ].map(([letter, days]) => ({
        id: newId(),
        productId,
        code: `${n}${letter}`,
        expiry: day(Number(days)),
      })),
    );
    await tx.insert('lot', lots);
    const quarantine = (await tx.one<{ id: string }>("SELECT id FROM place WHERE kind = 'quarantine'"))!;
    return moves.flatMap(m => {
      const [old, soon, late] = lots.filter(l => l.productId === m.productId);
      if (!soon) return [m];
      const some = Math.ceil(m.quantity * 0.85);
      return [
        { ...m, lotId: soon.id, quantity: some },
        ...(m.quantity > some ? [{ ...m, lotId: late!.id, quantity: m.quantity - some }] : []),
        { ...m, lotId: old!.id, to: quarantine.id, quantity: 3 },
      ];
    });
  }

  /** Goods that are on their way, and kits that are being made. */
  private async awaited(now: Date): Promise<void> {
    const day = (days: number) => new Date(now.getTime() + days * DAY_MS).toISOString().slice(0, 10);
    const lead = (await this.db.one<{ id: string }>("SELECT id FROM person WHERE role = 'lead'"))!.id;
    await this.db.tx({ personId: lead, at: new Date(now.getTime() - 3 * DAY_MS) }, async tx => {
      for (const p of PURCHASES(day)) await this.purchases.put(tx, { key: newId(), note: '', ...p });
    });
    await this.builds.create(
      {
        key: newId(),
        sku: 'KIT-GARDEN',
        quantity: 6,
        due: day(1),
        bench: 'BE-2',
        instruction: 'One packet of each seed into the printed bag, label on the back.',
        source: 'pick',
      },
      { personId: lead, at: now },
    );
  }

  private async take(tx: Tx, orders: readonly DemoOrder[]): Promise<void> {
    for (const c of CHANNELS) {
      const received: ReceivedOrder[] = orders.filter(o => o.channel === c.code).map(o => o.order);
      await this.intake.receive(
        tx,
        {
          id: this.ids.channels.get(c.code)!,
          name: c.name,
          currency: 'USD',
          warehouseId: this.ids.warehouse,
          home: WAREHOUSE.country,
        },
        received,
      );
    }
  }

  /** A month of past days, each taken in, picked, packed, labelled and departed. */
  private async livePast(past: readonly DemoOrder[], long: (days: number) => Date): Promise<void> {
    const perDay = Math.ceil(past.length / PAST_DAYS);
    for (let day = 0; day * perDay < past.length; day++) {
      const at = long(PAST_DAYS - day);
      await this.at(at, async tx => {
        await this.take(tx, past.slice(day * perDay, (day + 1) * perDay));
        const clear = await this.clear(tx, perDay);
        await this.through(tx, clear, 'Departed');
      });
    }
  }

  /** Takes Clear orders through picking and further; lists of twelve. */
  private async through(
    tx: Tx,
    orderIds: readonly string[],
    until: 'Listed' | 'Picked' | 'Packed' | 'Labelled' | 'Departed',
  ): Promise<void> {
    for (let i = 0; i < orderIds.length; i += TOTES_A_LIST) {
      const part = orderIds.slice(i, i + TOTES_A_LIST);
      const list = await this.releases.release(tx, part);
      if (until === 'Listed') continue;
      await this.picking.takeAll(tx, list.id);
      if (until === 'Picked') continue;
      const parcels = await this.past.pack(tx, part);
      if (until === 'Packed') continue;
      await this.past.label(tx, parcels);
      if (until === 'Departed') await this.away(tx, parcels);
    }
  }

  /** Parcels handed over and gone with their departure. */
  private async away(tx: Tx, parcels: readonly PastParcel[]): Promise<void> {
    await tx.run('UPDATE parcel SET handedOverAt = ? WHERE id IN (?)', [tx.at, parcels.map(p => p.id)]);
    await this.handovers.leave(tx, parcels);
  }

  /** A collection of each carrier that came some minutes after `tx.at`, whatever the clock says, so that today has parcels that are gone. */
  private async earlyCollections(tx: Tx): Promise<string[]> {
    const cutOff = new Date(tx.at.getTime() + 10 * 60_000);
    const day = DateTime.fromJSDate(cutOff, { zone: WAREHOUSE.zone }).toISODate()!;
    const rows = TIMETABLE.filter(t => !t.freight)
      .slice(0, 2)
      .map(t => ({
        id: newId(),
        warehouseId: this.ids.warehouse,
        timetableId: null,
        carrier: t.carrier,
        carrierName: t.carrierName,
        name: 'early collection',
        day,
        cutOff,
        services: JSON.stringify(t.services),
        freight: false,
      }));
    await tx.insert('departure', rows);
    return rows.map(r => r.id);
  }

  private async clear(tx: Tx, most: number): Promise<string[]> {
    return (
      await tx.rows<{ id: string }>("SELECT id FROM orders WHERE stage = 'Clear' ORDER BY no LIMIT ?", [most])
    ).map(r => r.id);
  }

  /** A day at work: some gone, some labelled, packed, picked, on lists, and the rest waiting. */
  private async liveToday(open: readonly DemoOrder[], now: Date): Promise<void> {
    const earlier = (minutes: number) => new Date(now.getTime() - minutes * 60_000);
    const share = (part: number) => Math.round(open.length * part);
    await this.at(earlier(300), tx => this.take(tx, open));
    await this.at(earlier(200), async tx => {
      const early = await this.earlyCollections(tx);
      await this.through(tx, await this.clear(tx, share(0.14)), 'Departed');
      await tx.run("UPDATE departure SET state = 'closed', closedAt = cutOff WHERE id IN (?)", [early]);
    });
    const steps: [
      minutes: number,
      part: number,
      until: 'Listed' | 'Picked' | 'Packed' | 'Labelled' | 'Departed',
    ][] = [
      [85, 0.06, 'Labelled'],
      [50, 0.07, 'Labelled'],
      [25, 0.08, 'Labelled'],
      [15, 0.03, 'Packed'],
      [12, 0.1, 'Picked'],
      [8, 0.08, 'Listed'],
    ];
    for (const [minutes, part, until] of steps)
      await this.at(earlier(minutes), async tx => this.through(tx, await this.clear(tx, share(part)), until));
    const waiting = await this.db.rows<{ id: string }>(
      "SELECT id FROM orders WHERE stage = 'Clear' ORDER BY no DESC LIMIT 2",
    );
    const lead = (await this.db.one<{ id: string }>("SELECT id FROM person WHERE role = 'office'"))!.id;
    for (const [i, o] of waiting.entries())
      await this.orders.park(o.id, ['buyer calls back at four', 'asks for another color'][i]!, '', {
        personId: lead,
        at: earlier(15),
      });
    const [, , given] = await this.db.rows<{ id: string }>(
      "SELECT id FROM orders WHERE stage = 'Clear' ORDER BY no DESC LIMIT 3",
    );
    if (given)
      await this.orders.cancel(given.id, 'the buyer ordered twice and wrote so', {
        personId: lead,
        at: earlier(10),
      });
  }
}
