import { FIRST_TROLLEY, type Mischief, type OfferView, type Role } from '@auk/contract';
import type { PickState } from '@auk/core';
import { CARRIERS, CHANNELS } from '@auk/demo';
import { v7 } from 'uuid';
import { Rounds } from '../src/leases/rounds.service.js';
import { orderCsv, scanOf, seenIn, wishOf } from './drive.js';
import type { Answer, Caller, House } from './house.js';

/** Products that all writers want, so that they meet. */
const SKUS = [
  'JAR-HEX-12',
  'SMK-4-ST',
  'HTL-S10',
  'FRM-DP-A',
  'SET-SMKHTL',
  'KIT-TOOLS',
  'FRK-UNC',
  'BRS-BEE',
];
const SINGLE = ['JAR-HEX-12', 'SMK-4-ST', 'HTL-S10', 'FRM-DP-A', 'FRK-UNC', 'BRS-BEE'];
/** One person of each role, acting at random on one house; whatever is the server's fault is noted. */
export class Hands {
  readonly posts = { done: 0, refused: 0 };

  constructor(
    readonly house: House,
    /** Somebody of each role, signed in. */
    readonly people: Record<Role, Caller>,
    readonly device: string,
    readonly random: () => number,
    readonly faults: string[],
  ) {}

  any<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.random() * list.length)];
  }

  int(from: number, to: number): number {
    return from + Math.floor(this.random() * (to - from + 1));
  }

  chance(p: number): boolean {
    return this.random() < p;
  }

  private note(what: string, answer: Answer): Answer {
    // What is legal is done, or refused because of what others did; it is never malformed or without the right.
    if (![200, 404, 409, 422].includes(answer.status))
      this.faults.push(`${what} -> ${answer.status} ${JSON.stringify(answer.body)}`);
    return answer;
  }

  async get(role: Role, path: string): Promise<Answer> {
    return this.note(`GET ${path}`, await this.people[role].get(path));
  }

  async post(role: Role, path: string, body: object = {}): Promise<Answer> {
    const answer = this.note(
      `POST ${path} ${JSON.stringify(body).slice(0, 400)}`,
      await this.people[role].post(path, body),
    );
    this.posts[answer.status === 200 ? 'done' : 'refused']++;
    return answer;
  }

  /** Has a file taken in; one that was given up is noted. */
  async bring(kind: string, query: string, csv: string): Promise<void> {
    try {
      this.note(kind, await this.people.office.takeIn(kind, query, csv));
    } catch (error) {
      this.faults.push(`${kind}: ${(error as Error).message}`);
    }
  }

  /** A scan of some session; now and then it is sent twice, as a device does that lost the answer. */
  async scan(role: Role, path: string, text: string): Promise<Answer> {
    const scan = scanOf(text);
    if (this.chance(0.1)) await this.post(role, path, scan);
    return this.post(role, path, scan);
  }

  /** An order of a stage. */
  async order(stage: string): Promise<string | undefined> {
    const { body } = await this.get('lead', `orders?stage=${stage}&size=30`);
    return this.any((body.rows ?? []) as { id: string }[])?.id;
  }

  // biome-ignore lint/suspicious/noExplicitAny: a view of the API
  async shown(id: string): Promise<any> {
    return (await this.get('lead', `orders/${id}`)).body;
  }

  /** A parcel of an order of a stage. */
  async parcel(stage: string): Promise<string | undefined> {
    const id = await this.order(stage);
    if (!id) return undefined;
    const parcels = (await this.shown(id)).parcels as { no: string }[] | undefined;
    return this.any(parcels ?? [])?.no;
  }

  async place(): Promise<string> {
    return this.any(['A-01-1', 'A-03-1', 'B-02-1', 'C-03-1', 'C-04-1', 'C-05-1', 'D-01-1'])!;
  }

  round(...names: string[]): Promise<void> {
    return this.house.app.get(Rounds).once(...names);
  }
}

let made = 0;
const REASON = { reason: 'test' };

/** Orders and their changes: channels, files, and the desk. */
const DESK: Record<string, (h: Hands) => Promise<unknown>> = {
  'a file of orders': h => {
    const rows = Array.from({ length: h.int(1, 4) }, () => {
      const number = h.chance(0.15) ? `ACT-${h.int(1, 40)}` : `ACT-${++made}`;
      return `${number},Ruth ${h.int(1, 9)},1 Road,Boise,ID,83702,${h.any(SKUS)},Thing,${h.int(1, 3)},2.50`;
    });
    return h.bring('orders', 'channel=web&name=acts', orderCsv(rows));
  },
  'a channel sells, and is asked': async h => {
    const channel = h.any(CHANNELS)!.code;
    h.house.standins.channels.get(channel)!.sell(h.int(1, 2));
    await h.post('office', `channels/${channel}/pull`);
  },
  'an order is edited': async h => {
    const id = await h.order(h.any(['Clear', 'Short', 'Stopped', 'Listed'])!);
    if (!id) return;
    const order = await h.shown(id);
    const line = h.any(order.lines as { key: string }[]);
    const change = h.any([
      { lines: line ? [{ key: line.key, quantity: h.int(1, 4) }] : [] },
      { lines: [{ sku: h.any(SKUS), quantity: 1 }] },
      { lines: line ? [{ key: line.key, remove: true }] : [] },
      { note: 'as it is' },
    ])!;
    await h.post('office', `orders/${id}/edit`, { version: order.version, ...change });
  },
  'an order is parked or freed': async h => {
    const id = await h.order(h.any(['Clear', 'Parked', 'Short'])!);
    if (id) await h.post('lead', `orders/${id}/${h.any(['park', 'unpark'])}`, REASON);
  },
  'an order is cancelled': async h => {
    const id = await h.order(h.any(['Clear', 'Clear', 'Listed', 'Picked', 'Packed', 'Elsewhere'])!);
    if (id && h.chance(0.6)) await h.post('office', `orders/${id}/cancel`, REASON);
  },
  'an order is split or merged': async h => {
    const [one, two] = [await h.order('Clear'), await h.order('Clear')];
    if (!one || !two) return;
    if (h.chance(0.5)) return void (await h.post('office', 'orders/merge', { ids: [one, two] }));
    const order = await h.shown(one);
    const line = h.any(order.lines as { key: string }[]);
    if (line)
      await h.post('office', `orders/${one}/split`, {
        version: order.version,
        lines: [{ key: line.key, quantity: 1 }],
      });
  },
  'rules run again': async h => {
    const id = await h.order('Clear');
    if (id) await h.post('office', 'rules/again', { ids: [id] });
  },
  'goods are served anew': h => h.post('lead', 'stock/serve-again'),
  'an order elsewhere comes back': async h => {
    const id = await h.order('Elsewhere');
    if (id) await h.post('lead', `orders/${id}`.replace('orders', 'elsewhere/orders').concat('/back'));
  },
};

/** Lists, plans, walks and the put wall. */
const FLOOR: Record<string, (h: Hands) => Promise<unknown>> = {
  'a list is released': async h => {
    const { body } = await h.get('lead', 'orders?stage=Clear&size=12');
    const ids = (body.rows as { id: string }[]).map(r => r.id).filter(() => h.chance(0.4));
    if (ids.length > 0)
      await h.post('lead', 'picking/lists', {
        orderIds: ids,
        method: h.any(['cluster', 'batch']),
      });
  },
  'a plan is made and released': async h => {
    const id = v7();
    await h.post('lead', 'planning/plans', {
      id,
      departures: [],
      tags: [],
      areas: [],
      apart: false,
      pickers: 1,
      until: null,
      method: 'cluster',
      trolley: FIRST_TROLLEY,
      keep: null,
    });
    let plan = (await h.get('lead', `planning/plans/${id}`)).body;
    while (plan.state === 'planning') plan = (await h.get('lead', `planning/plans/${id}`)).body;
    const list = h.any((plan.lists ?? []) as { id: string }[]);
    if (list) await h.post('lead', `planning/plans/${id}/release`, { listIds: [list.id] });
  },
  'a list is walked': async h => {
    const { body } = await h.get('lead', 'picking/lists');
    const list = h.any((body as { no: string; state: string }[]).filter(l => l.state !== 'done'));
    if (!list) return;
    const opened = await h.post('picker', 'picking/open', { code: list.no, device: h.device });
    if (opened.status !== 200) return;
    const { sessionId, state } = opened.body;
    const path = `picking/sessions/${sessionId}/scans`;
    // A heap wants something to lie on before anything is taken.
    if (state.heap && !state.trolley) await h.scan('picker', path, `TR-00${h.int(1, 4)}`);
    const whole = h.chance(0.8);
    for (const stop of (state as PickState).stops) {
      if (stop.taken + stop.missing >= stop.wanted) continue;
      if (!whole && h.chance(0.3)) break;
      await h.scan('picker', path, stop.placeCode);
      await h.scan('picker', path, stop.product.codes[0]!.code);
      if (stop.wanted - stop.taken > 1) await h.scan('picker', path, 'AUK-ALL');
      if (h.chance(0.05)) await h.scan('picker', path, h.any(['AUK-UNDO', 'AUK-SHORT', 'AUK-SKIP', '1'])!);
    }
  },
  'a heap is sorted': async h => {
    const heap = h.any((await h.get('picker', 'sorting/heaps')).body as { code: string }[]);
    if (!heap) return;
    const opened = await h.post('picker', 'sorting/open', { code: heap.code, wall: null, device: h.device });
    if (opened.status !== 200) return;
    const path = `sorting/sessions/${opened.body.sessionId}/scans`;
    for (const unit of opened.body.state.units ?? [])
      await h.scan('picker', path, unit.product?.codes?.[0]?.code ?? 'JAR-HEX-12');
    await h.scan('picker', path, h.any(['AUK-ALL', 'AUK-UNDO', 'CE-A01'])!);
  },
};

/** Packing, labels, handover and what comes back. */
const BENCH: Record<string, (h: Hands) => Promise<unknown>> = {
  'an order is packed': h => pack(h, 1),
  'an order is packed in part': h => pack(h, 0.5),
  'a label is bought': async h => {
    const no = await h.parcel('Packed');
    if (!no) return;
    const { offers = [] } = (await h.get('packer', `parcels/${no}/offers`)).body;
    const offer = h.any(offers as OfferView[]);
    if (!offer) return;
    const wish = wishOf(offer);
    // A press that is sent twice is one purchase.
    if (h.chance(0.3)) await Promise.all([1, 2].map(() => h.post('packer', `parcels/${no}/label`, wish)));
    else await h.post('packer', `parcels/${no}/label`, wish);
  },
  'labels are bought together': async h => {
    const nos = [await h.parcel('Packed'), await h.parcel('Packed')].filter(n => n !== undefined);
    if (nos.length === 0) return;
    const { id } = (await h.post('lead', 'labels/batches', { parcels: nos })).body;
    if (!id) return;
    await h.round('jobs');
    const view = (await h.get('lead', `labels/batches/${id}`)).body;
    if (view.state === 'priced') await h.post('lead', `labels/batches/${id}/buy`, { minor: view.toBuyMinor });
  },
  'a label is voided': async h => {
    const no = await h.parcel('Labelled');
    if (no) await h.post('packer', `parcels/${no}/void`);
  },
  'a parcel is opened again': async h => {
    const no = await h.parcel(h.any(['Packed', 'Labelled'])!);
    if (no) await h.post('packer', `packing/parcels/${no}/open`);
  },
  'parcels are handed over': async h => {
    const ids = [await h.order('Labelled'), await h.order('Labelled')].filter(i => i !== undefined);
    for (const id of ids)
      for (const p of (await h.shown(id)).parcels as { no: string; departureNo: string | null }[])
        if (p.departureNo) await h.scan('packer', `departures/${p.departureNo}/scans`, p.no);
  },
  'a departure is closed': async h => {
    const id = await h.order('Labelled');
    const parcels = id ? ((await h.shown(id)).parcels as { departureNo: string | null }[]) : [];
    const no = h.any(parcels.flatMap(p => (p.departureNo ? [p.departureNo] : [])));
    if (no && h.chance(0.5)) await h.post('packer', `departures/${no}/close`, { leaveBehind: true });
    else if (no && h.chance(0.2)) await h.post('lead', `departures/${no}/cancel`, REASON);
  },
  'a parcel comes back': async h => {
    const no = await h.parcel('Departed');
    if (no && h.chance(0.6)) await h.post('packer', 'returns', { key: v7(), code: no });
    const back = h.any(
      (await h.get('lead', 'returns')).body as { pieces: { id: string; judged: string }[] }[],
    );
    const piece = h.any(back?.pieces.filter(p => p.judged === 'open') ?? []);
    if (!piece) return;
    await h.post('lead', `returns/pieces/${piece.id}/judge`, {
      key: v7(),
      ...h.any([
        { as: 'resell', place: await h.place() },
        { as: 'write off', ...REASON },
      ]),
    });
  },
  'a return label is bought': async h => {
    const no = await h.parcel('Departed');
    if (!no) return;
    const offer = h.any(
      ((await h.get('lead', `parcels/${no}/return-offers`)).body.offers ?? []) as OfferView[],
    );
    if (offer) await h.post('lead', `parcels/${no}/return-label`, wishOf(offer));
    if (h.chance(0.3)) await h.post('lead', `parcels/${no}/return-void`);
  },
};

/** Packs a picked order by scans: so much of it, and closes it when that is all. */
async function pack(h: Hands, share: number): Promise<void> {
  const id = await h.order('Picked');
  if (!id) return;
  const { row } = await h.shown(id);
  const opened = await h.post('packer', 'packing/open', { code: row.no, device: h.device });
  if (opened.status !== 200) return;
  const { sessionId, state } = opened.body;
  const path = `packing/sessions/${sessionId}/scans`;
  const pieces = (state.lines as { wanted: number; product: { codes: { code: string }[] } }[]).flatMap(l =>
    Array.from({ length: l.wanted }, () => l.product.codes[0]!.code),
  );
  for (const code of pieces.slice(0, Math.ceil(pieces.length * share))) await h.scan('packer', path, code);
  if (share < 1) return void (await h.scan('packer', path, h.any(['AUK-UNDO', 'AUK-LEAVE', 'BX-3'])!));
  for (const text of ['BX-3', '3 lb', 'AUK-YES', 'AUK-CLOSE']) await h.scan('packer', path, text);
}

/** Goods: counts, moves, purchases, kits. */
const STOCK: Record<string, (h: Hands) => Promise<unknown>> = {
  'goods are moved or written off': async h => {
    const sku = h.any(SINGLE)!;
    const at = h.any((await h.get('lead', `products/${sku}`)).body.places as { code: string }[]);
    if (!at) return;
    const act = { key: v7(), sku, from: at.code, quantity: h.int(1, 3), ...REASON };
    if (h.chance(0.7)) await h.post('picker', 'stock/moves', { ...act, to: await h.place() });
    else await h.post('office', 'stock/write-offs', act);
  },
  'a place is counted': async h => {
    const sku = h.any(SINGLE)!;
    const at = h.any(
      (await h.get('lead', `products/${sku}`)).body.places as { code: string; onHand: number }[],
    );
    if (!at) return;
    const seen = await seenIn({ get: path => h.get('lead', path) } as Caller, at.code);
    await h.post('picker', 'stock/counts', {
      key: v7(),
      place: at.code,
      seen,
      lines: [{ sku, lot: null, counted: Math.max(0, at.onHand + h.int(-2, 3)) }],
    });
  },
  'a purchase is received': async h => {
    const wish = {
      key: v7(),
      supplier: 'Acts',
      lines: [h.any(SINGLE), h.any(SINGLE)].map(sku => ({ sku, quantity: h.int(3, 20) })),
    };
    const { no } = (await h.post('office', 'receiving', wish)).body;
    const opened = await h.post('picker', `receiving/${no}/open`, { device: h.device });
    if (opened.status !== 200) return;
    const path = `receiving/sessions/${opened.body.sessionId}/scans`;
    for (const line of opened.body.state.lines)
      for (const text of [line.product.codes[0].code, 'AUK-ALL', h.any(['C-03-1', 'C-05-1', 'AUK-UNDO'])!])
        await h.scan('picker', path, text);
    if (h.chance(0.5)) await h.post('office', `receiving/${no}/end`);
  },
  'a kit is planned, built or taken apart': async h => {
    const builds = (await h.get('lead', 'builds')).body as { no: string; state: string }[];
    const build = h.any(Array.isArray(builds) ? builds : []);
    if (!build || h.chance(0.4))
      return void (await h.post('office', 'builds', { key: v7(), sku: 'KIT-TOOLS', quantity: h.int(1, 3) }));
    if (h.chance(0.6))
      await h.post('packer', `builds/${build.no}/finish`, { key: v7(), made: 1, to: 'C-04-1' });
    else if (h.chance(0.5)) await h.post('lead', `builds/${build.no}/stop`);
    else
      await h.post('packer', 'builds/unbuild', {
        key: v7(),
        sku: 'KIT-TOOLS',
        quantity: 1,
        from: 'C-04-1',
        to: 'C-05-1',
        ...REASON,
      });
  },
};

/** Shipments to centers, one step further each time. */
const INBOUND: Record<string, (h: Hands) => Promise<unknown>> = {
  'a shipment is drafted': async h => {
    const { no } = (await h.post('office', 'inbound', { key: v7(), network: 'Fernway Centers' })).body;
    for (const sku of ['HTL-J10', 'BRS-BEE'])
      await h.post('office', `inbound/${no}/lines`, { sku, units: h.int(1, 8) });
    await h.post('office', `inbound/${no}/codes`);
    await h.post('office', `inbound/${no}/way`, {
      placement: h.any(['one dock', 'spread']),
      form: 'parcels',
      carrier: 'Fernway Pick-up',
      rates: 'theirs',
    });
    await h.post('office', `inbound/${no}/reserve`, { key: v7() });
  },
  'a shipment goes on': async h => {
    const row = h.any((await h.get('lead', 'inbound')).body as { no: string }[]);
    if (!row) return;
    const { parts = [] } = (await h.get('lead', `inbound/${row.no}`)).body;
    const part = h.any(parts as { id: string; stage: string }[]);
    if (!part) return;
    const act = h.any(['book', 'book', 'leave', 'call-off', 'cancel', 'cancel all', 'happens'])!;
    if (act === 'cancel all')
      return void (h.chance(0.3) && (await h.post('lead', `inbound/${row.no}/cancel`, { key: v7() })));
    if (act === 'book') {
      const price = await h.post('lead', `inbound/parts/${part.id}/price`);
      if (price.status === 200)
        await h.post('lead', `inbound/parts/${part.id}/book`, { key: v7(), priceMinor: price.body.minor });
    } else if (act === 'happens') {
      const desk = h.house.standins.networks.get('network')!.inbound;
      const entry = h.any(desk.bookings.all());
      if (entry)
        desk.answer(
          'POST',
          'bookings',
          entry.key,
          'happens',
          JSON.stringify({ what: h.any(['at dock', 'late']), late: '2031-01-31' }),
        );
    } else await h.post('lead', `inbound/parts/${part.id}/${act}`, { key: v7() });
  },
};

/** What nobody does: servers take their turns, and carriers, channels and networks are as they are. */
const AROUND: Record<string, (h: Hands) => Promise<unknown>> = {
  'a server takes a turn': h =>
    h.round(h.any(['jobs', 'stages passed', 'pull', 'push', 'inbound', 'tracking', 'centers'])!),
  'a carrier misbehaves': async h => {
    const on: Mischief['on'] = h.any(['quote', 'buy', 'find', 'void', 'track'] as const)!;
    const how = h.any(
      on === 'buy'
        ? (['fail before', 'fail after', 'nonsense', 'refuse', 'dearer', 'charge more', 'not found'] as const)
        : (['fail before', 'fail after', 'nonsense', 'not found'] as const),
    )!;
    h.house.standins.misbehave(h.any(CARRIERS)!.code, { on, how, times: 1 });
  },
  'a channel misbehaves': async h => {
    const how = h.any(['busy', 'error', 'cut', 'repeat', 'reorder', 'fail before', 'fail after'] as const)!;
    h.house.standins.misbehave(h.any(CHANNELS)!.code, {
      on: h.any(['pull', 'push'] as const)!,
      how,
      times: 1,
      ms: 200,
    });
  },
  'an answer of a network is lost': async h => {
    h.house.standins.lostAnswers = 1;
  },
};

/** Everything that may be done, by its name. */
export const ACTS: Record<string, (h: Hands) => Promise<unknown>> = {
  ...DESK,
  ...FLOOR,
  ...BENCH,
  ...STOCK,
  ...INBOUND,
  ...AROUND,
};

/** What is done all day is done more often than the rest. */
const OFTEN = ['a list is walked', 'an order is packed', 'a label is bought', 'parcels are handed over'];
export const DRAWN = [...Object.keys(ACTS), ...OFTEN, ...OFTEN, ...OFTEN];
