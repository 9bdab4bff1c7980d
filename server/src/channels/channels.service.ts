import { setTimeout as wait } from 'node:timers/promises';
import type { ChannelKind, ChannelView, ConnectChannel } from '@auk/contract';
import { type Address, quoted } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import { Db, type Doer, newId, type Tx } from '../database/db.js';
import { log } from '../http/log.js';
import { mustLeadOutside } from '../http/outside.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { type IntakeChannel, OrderIntake } from '../intake/intake.module.js';
import { JobsService } from '../jobs/jobs.module.js';
import { LeaseLost, Leases, Rounds, type Turn } from '../leases/leases.module.js';
import { pushedListings, StockForSale, takeListings } from '../products/products.module.js';
import { BUILDS, HAND, INBOUND } from '../records/records.module.js';
import { seal } from '../reference/sealing.js';
import { type ChannelAdapter, type ChannelPage, ChannelTrouble, type ReceivedListing } from './adapter.js';
import { Channel } from './channel.entity.js';
import { ChannelLink } from './channelLink.entity.js';
import {
  beginTry,
  type Clock,
  channelsWithLinks,
  dueChannels,
  dueNow,
  type LinkRow,
  linkedListings,
  linkOf,
  lockLink,
  moveOn,
  noteDone,
  noteFailed,
  noteNotSent,
  noteSent,
  troublesOf,
} from './channels.queries.js';
import { ChannelTrouble as TroubleEntity } from './channelTrouble.entity.js';
import { CHANNEL_KINDS } from './kinds.js';
import { adapterOf, toView } from './links.js';

/** Pulling holds a channel for this long from its last page on; a server that died lets go by itself. */
const LEASE_MS = 60_000;
const DUE_EVERY_MS = 1_000;
/** Stock for sale is gathered for this long between two pushes. */
const PUSH_MS = 20_000;
const PUSH_ROWS = 100;
/** Waits after a failure, growing with the channel's own rhythm at most. */
const RETRY_MS = 15_000;
/** Breath between pages, so that a long pull never holds up the people. */
const BREATH_MS = 15;
/** Orders taken in one transaction of a page. */
const PART = 5;

/** Channels that are asked over the network: connecting, pulling orders and listings, pushing stock for sale, telling tracking. */
@Injectable()
export class ChannelsService {
  constructor(
    private readonly db: Db,
    private readonly intake: OrderIntake,
    private readonly stock: StockForSale,
    private readonly leases: Leases,
    private readonly jobs: JobsService,
    private readonly rounds: Rounds,
  ) {
    const common = { everyMs: DUE_EVERY_MS, leaseMs: LEASE_MS };
    rounds.register({
      ...common,
      name: 'pull',
      lanes: () => dueChannels(this.db, 'pullAt'),
      work: (id, turn) => this.pull(id, turn),
    });
    rounds.register({
      ...common,
      name: 'push',
      lanes: () => dueChannels(this.db, 'pushAt'),
      work: (id, turn) => this.pushTo(id, turn),
    });
  }

  kinds(): ChannelKind[] {
    return CHANNEL_KINDS.map(({ kind, words }) => ({ kind, words }));
  }

  async list(): Promise<ChannelView[]> {
    const rows = await channelsWithLinks(this.db);
    return rows.map(toView);
  }

  /** Makes the channels of a new house that are its own: orders that people type, the parts of builds, and shipments to centers. */
  async makeOwn(tx: Tx, house: { brand: string; currency: string; sender: Address }): Promise<void> {
    await tx.insert(
      Channel,
      [
        { code: HAND, name: 'By hand' },
        { code: BUILDS, name: 'Builds' },
        { code: INBOUND, name: 'Inbound' },
      ].map(c => ({
        id: newId(),
        ...c,
        brand: house.brand,
        currency: house.currency,
        sender: JSON.stringify(house.sender),
      })),
    );
  }

  /** Connects a channel, or changes how it is connected. Without a key the one kept stays. */
  async connect(code: string, input: ConnectChannel, doer: Doer): Promise<void> {
    if (!CHANNEL_KINDS.some(k => k.kind === input.kind))
      throw new Forbidden(
        `There is no kind of channel “${quoted(input.kind)}”.`,
        'Choose one of those offered.',
      );
    await mustLeadOutside(input.address);
    await this.db.tx(doer, async tx => {
      const channel = await lockLink(tx, code);
      if (!channel) throw new NotHere(`The channel ${quoted(code)}`, 'Choose one of the channels offered.');
      if (!channel.kind && input.key === '')
        throw new Forbidden('The channel’s key is missing.', 'Copy it from the channel’s own settings.');
      const anew = channel.kind !== input.kind || channel.address !== input.address;
      const columns = {
        kind: input.kind,
        address: input.address,
        everyMinutes: input.everyMinutes,
        active: input.active,
        pullAt: tx.at,
        pushAt: tx.at,
        error: null,
      };
      if (!channel.kind)
        await tx.insert(ChannelLink, [{ channelId: channel.id, ...columns, keySealed: seal(input.key) }]);
      else {
        const more = {
          ...columns,
          ...(input.key ? { keySealed: seal(input.key) } : {}),
          ...(anew ? { orderCursor: null, listingCursor: null } : {}),
        };
        await tx.of(ChannelLink).update(channel.id, more);
      }
      await tx.tell('channels', code);
    });
  }

  /** Asks that a channel be pulled now; the next round of jobs does it. */
  async pullSoon(code: string, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const n = await dueNow(tx, tx.at, code);
      if (n === 0)
        throw new NotHere(`A connected channel ${quoted(code)}`, 'Connect it in Setup, or switch it on.');
      await tx.tell('channels', code);
    });
  }

  /** Pulls every channel whose time has come, each by itself; waits for their ends. */
  pullDue(): Promise<void> {
    return this.rounds.once('pull');
  }

  /** Pushes to every channel whose time has come, each by itself; waits for their ends. */
  pushDue(): Promise<void> {
    return this.rounds.once('push');
  }

  /** Takes a channel's turn when its time has come still: whoever moves the time on does the work. */
  private async turn(channelId: string, clock: Clock): Promise<LinkRow | null> {
    const mine = await moveOn(this.db, channelId, clock, PUSH_MS / 1000);
    return mine ? linkOf(this.db, channelId) : null;
  }

  /** One round with a channel: its listings, its orders page by page, each page taken in together with the cursor that follows it. */
  private async pull(channelId: string, turn: Turn): Promise<void> {
    const link = await this.turn(channelId, 'pullAt');
    if (!link) return;
    await beginTry(this.db, channelId);
    const counts = { listings: 0, new: 0, changed: 0, same: 0, unreadable: 0 };
    try {
      const adapter = adapterOf(link);
      await this.pages(
        link,
        'listings',
        c => adapter.listings(c),
        (tx, page) => this.takeListings(tx, link, page.items),
        counts,
        turn,
      );
      await this.pages(
        link,
        'orders',
        c => adapter.orders(c),
        (tx, page) => this.takeOrders(tx, link, page),
        counts,
        turn,
      );
      await this.done(link, turn, counts, tx => noteDone(tx, channelId, JSON.stringify(counts)));
      await this.jobs.hurry(this.db, channelId);
    } catch (error) {
      if (error instanceof LeaseLost) throw error;
      if (!(error instanceof ChannelTrouble)) log.warn({ err: error, channel: link.code }, 'a pull failed');
      const retry = error instanceof ChannelTrouble ? (error.retryAfterMs ?? RETRY_MS) : RETRY_MS;
      const says =
        error instanceof ChannelTrouble
          ? error.message
          : 'Something unexpected went wrong while its orders were taken in.';
      await this.done(link, turn, counts, tx =>
        noteFailed(tx, channelId, JSON.stringify(counts), says.slice(0, 400), retry * 1000),
      );
    }
  }

  private async pages<T>(
    link: LinkRow,
    what: 'orders' | 'listings',
    ask: (cursor: string | null) => Promise<ChannelPage<T>>,
    takeIn: (tx: Tx, page: ChannelPage<T>) => Promise<Partial<Counts>>,
    counts: Counts,
    turn: Turn,
  ): Promise<void> {
    const column = what === 'orders' ? 'orderCursor' : 'listingCursor';
    let cursor = link[column];
    for (let more = true; more && !turn.stopped(); ) {
      const page = await ask(cursor);
      await this.leases.renew(turn.lease, LEASE_MS);
      for (let i = 0; i < page.items.length; i += PART) {
        // A part that is tried again, because another was in the way, is counted once.
        const came = await this.db.tx({ personId: null, at: new Date() }, async tx => {
          await this.leases.must(tx, turn.lease);
          return takeIn(tx, { ...page, items: page.items.slice(i, i + PART), unreadable: [] });
        });
        for (const what of Object.keys(came) as (keyof Counts)[]) counts[what] += came[what]!;
        await wait(BREATH_MS);
      }
      counts.unreadable += page.unreadable.length;
      await this.db.tx({ personId: null, at: new Date() }, async tx => {
        await this.leases.must(tx, turn.lease);
        await this.keepUnreadable(tx, link, what, page);
        await tx
          .of(ChannelLink)
          .update(link.channelId, { [column]: page.cursor, doing: progress(what, counts) });
        await tx.tell('channels', link.code);
      });
      more = page.more && page.cursor !== cursor;
      cursor = page.cursor;
    }
  }

  private async takeOrders(
    tx: Tx,
    link: LinkRow,
    page: ChannelPage<Parameters<OrderIntake['receive']>[2][number]>,
  ): Promise<Partial<Counts>> {
    await tx
      .of(Channel)
      .findOne({ where: { id: link.channelId }, select: { id: true }, lock: { mode: 'pessimistic_write' } });
    const channel: IntakeChannel = {
      id: link.channelId,
      name: link.name,
      currency: link.currency,
      warehouseId: link.warehouseId,
      home: link.home,
    };
    const came = { new: 0, changed: 0, same: 0 };
    for (const a of await this.intake.receive(tx, channel, page.items))
      came[a.state === 'new' || a.state === 'changed' ? a.state : 'same'] += 1;
    await tx
      .of(TroubleEntity)
      .delete({ channelId: link.channelId, number: In([...page.items.map(o => o.channelNumber), '']) });
    return came;
  }

  private async takeListings(
    tx: Tx,
    link: LinkRow,
    items: readonly ReceivedListing[],
  ): Promise<Partial<Counts>> {
    await takeListings(tx, link.channelId, items);
    return { listings: items.length };
  }

  /** What could not be read is kept with its why, until the channel sends it readable. */
  private async keepUnreadable(
    tx: Tx,
    link: LinkRow,
    what: string,
    page: ChannelPage<unknown>,
  ): Promise<void> {
    await tx.upsert(
      TroubleEntity,
      page.unreadable.map(u => ({
        channelId: link.channelId,
        number: what === 'orders' ? u.number : `listing ${u.number}`.slice(0, 60),
        why: u.why,
        body: JSON.stringify(u.body ?? null),
        at: tx.at,
      })),
      ['why', 'body', 'at'],
    );
  }

  /** Ends a round: what came of it, and no more "doing". */
  private async done(
    link: LinkRow,
    turn: Turn,
    counts: Counts,
    note: (tx: Tx) => Promise<unknown>,
  ): Promise<void> {
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await this.leases.must(tx, turn.lease);
      await note(tx);
      await tx.tell('channels', link.code);
      if (counts.listings > 0) await tx.tell('catalog', '');
    });
  }

  /** Pushes stock for sale to a channel: only what changed since the last push, gathered into few messages. */
  private async pushTo(channelId: string, turn: Turn): Promise<void> {
    const link = await this.turn(channelId, 'pushAt');
    if (!link) return;
    try {
      if ((await this.push(link, turn)) > 0) await noteSent(this.db, channelId);
    } catch (error) {
      if (error instanceof LeaseLost) throw error;
      const trouble = error instanceof ChannelTrouble ? error : null;
      if (!trouble) log.warn({ err: error, channel: link.code }, 'a push of stock failed');
      await noteNotSent(
        this.db,
        (trouble?.message ?? 'Something unexpected went wrong.').slice(0, 400),
        (trouble?.retryAfterMs ?? PUSH_MS) * 1000,
        channelId,
      );
    }
  }

  private async push(link: LinkRow, turn: Turn): Promise<number> {
    const listings = await linkedListings(this.db, link.channelId);
    const free = await this.stock.ofProducts(
      this.db,
      listings.map(l => l.productId),
    );
    const changed = listings
      .map(l => ({ ...l, quantity: Math.floor((free.get(l.productId) ?? 0) / l.units) }))
      .filter(l => l.quantity !== l.pushed);
    const adapter = adapterOf(link);
    for (let i = 0; i < changed.length; i += PUSH_ROWS) {
      const part = changed.slice(i, i + PUSH_ROWS);
      await adapter.pushStock(part.map(({ channelSku, quantity }) => ({ channelSku, quantity })));
      await this.leases.renew(turn.lease, LEASE_MS);
      await this.db.tx({ personId: null, at: new Date() }, async tx => {
        await this.leases.must(tx, turn.lease);
        await pushedListings(tx, part);
      });
    }
    return changed.length;
  }

  /** Tells an order's channel something. One that is not connected is not told; one that is switched off is told when it is on again. Returns whether it was. */
  async tell(channelId: string, say: (channel: ChannelAdapter) => Promise<void>): Promise<boolean> {
    const link = await linkOf(this.db, channelId);
    if (!link) return false;
    if (!link.active) throw new ChannelTrouble(`${link.name} is switched off in Setup.`);
    await say(adapterOf(link));
    return true;
  }

  /** What a channel sent that cannot be read. */
  trouble(code: string): Promise<{ number: string; why: string; at: Date }[]> {
    return troublesOf(this.db, code);
  }
}

type Counts = Record<'listings' | 'new' | 'changed' | 'same' | 'unreadable', number>;

const progress = (what: string, c: Counts): string =>
  what === 'listings'
    ? `${c.listings} listings read`
    : `${c.new + c.changed + c.same} orders read, ${c.new} new`;
