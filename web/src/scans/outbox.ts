import type { Person, ScanIn } from '@auk/contract';
import type { Answer } from '@auk/core';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { Refused, wordsOf } from '../api.js';
import { onDevice } from '../kept.js';

/** A scan of this device that the server has not judged yet. */
export interface Pending {
  id: string;
  /** In which order the scans of this device were made. */
  order: number;
  /** Scans of one lane (a list, a parcel, a departure ...) go one after another. */
  lane: string;
  /** Where it goes; of scans that an older Auk kept there are several, tried in turn. */
  paths: string[];
  /** What it was scanned into, for the list of what is unsent. */
  into: string;
  scan: ScanIn;
  maker: Pick<Person, 'id' | 'name'> | null;
  /** How often the server had a fault of its own with it. */
  faults: number;
  /** Why it is not sent any more until somebody says so; null while it is. */
  aside: string | null;
}

/** What became of a scan: judged, or refused as a whole request. `state` is the session's, where it was judged. */
export interface Outcome {
  id: string;
  lane: string;
  answer: Answer;
  state: unknown;
  judged: boolean;
}

export interface OutboxView {
  pending: readonly Pending[];
  /** Why nothing is sent at the moment; null while all goes well. */
  trouble: 'no network' | 'signed out' | 'the server has trouble' | null;
  /** Somebody must sign in before it goes on. */
  signIn: boolean;
  /** The device has no room for them: they live as long as this page does. */
  full: boolean;
}

/** Sends one scan; the transport, so that it can be another in tests. */
export type Send = (path: string, scan: ScanIn) => Promise<{ answer: Answer; state: unknown }>;
/** Holds where a lane stands by the server's last word, for a reload without a network. */
export type Hold = (lane: string, state: unknown) => Promise<void>;

interface Schema extends DBSchema {
  scans: { key: string; value: Pending };
}

type Message = { added: Pending } | { changed: Pending } | { outcome: Outcome };

const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 30_000;
/** A scan that the server fails at so often is set aside, and those behind it go on. */
const MOST_FAULTS = 6;
/** Answers of a server, or of what stands before it, that cannot do anything at the moment; no scan is at fault. */
const AWAY = new Set([502, 503, 504]);
const CHANNEL = 'auk-outbox';
const OLD_QUEUES = 'auk.scans.';

/**
 * All scans of this device on their way to the server, whatever screen made them: kept in the browser's database until each is judged,
 * sent in order by one tab, again after growing waits. What is told of an answer is the problem's `retry` alone.
 */
export class Outbox {
  private pending: Pending[] = [];
  private view: OutboxView = { pending: [], trouble: null, signIn: false, full: false };
  private readonly watchers = new Set<() => void>();
  private readonly hearers = new Set<(outcome: Outcome) => void>();
  private readonly waits = new Map<string, { until: number; times: number }>();
  private db: IDBPDatabase<Schema> | null = null;
  private me: Person | null = null;
  private wake: () => void = () => {};
  private order = 0;
  /** Whether this tab is the one that sends. */
  private sends = false;
  readonly ready: Promise<void>;

  constructor(
    private readonly send: Send,
    private readonly tabs = new BroadcastChannel(CHANNEL),
    private readonly holds: Hold = async () => {},
  ) {
    this.tabs.onmessage = event => this.hear(event.data as Message);
    this.ready = this.open();
    globalThis.addEventListener?.('online', () => this.hurry());
    void this.ready.then(() => this.hold());
  }

  /** The scans of a lane that are not judged yet, in order. */
  of(lane: string): readonly Pending[] {
    return this.pending.filter(p => p.lane === lane && p.aside === null);
  }

  /** Keeps a scan and sends it as soon as its turn comes. */
  add(lane: string, path: string, into: string, scan: ScanIn): void {
    const maker = this.me && { id: this.me.id, name: this.me.name };
    const made: Pending = {
      id: scan.id,
      order: this.nextOrder(),
      lane,
      paths: [path],
      into,
      scan: maker ? { ...scan, maker: maker.id } : scan,
      maker,
      faults: 0,
      aside: null,
    };
    this.keep(made);
    this.tabs.postMessage({ added: made } satisfies Message);
    this.wake();
  }

  /** Tells who is signed in; what waited for that goes on. */
  signedIn(me: Person | null): void {
    const changed = this.me?.id !== me?.id;
    this.me = me;
    if (me && (changed || this.view.signIn)) this.hurry();
  }

  /** Sends a scan again that was set aside. */
  again(id: string): void {
    const found = this.pending.find(p => p.id === id);
    if (!found) return;
    this.change({ ...found, aside: null, faults: 0 });
    this.hurry();
  }

  /** Tries at once what waits. */
  hurry(): void {
    this.waits.clear();
    this.show({ signIn: false, trouble: null });
    this.wake();
  }

  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };

  hearOutcomes(hearer: (outcome: Outcome) => void): () => void {
    this.hearers.add(hearer);
    return () => this.hearers.delete(hearer);
  }

  look = (): OutboxView => this.view;

  /** Opens the browser's database and reads what is there, with what an older Auk kept in another place. Without one, scans live as long as the tab. */
  private async open(): Promise<void> {
    try {
      this.db = await openDB<Schema>('auk', 1, {
        upgrade: db => void db.createObjectStore('scans', { keyPath: 'id' }),
      });
      for (const early of this.pending) await this.db.put('scans', early);
      await this.read();
    } catch {
      this.db = null;
      this.show({ full: true });
    }
    for (const old of oldQueues()) this.keep({ ...old, order: this.nextOrder() });
    this.show({});
  }

  /** Reads what the browser's database has, beside what is known here. */
  private async read(): Promise<void> {
    const known = new Set(this.pending.map(p => p.id));
    const kept = (await this.db?.getAll('scans')) ?? [];
    this.pending = [...this.pending, ...kept.filter(p => !known.has(p.id))].sort(byOrder);
  }

  private nextOrder(): number {
    this.order = Math.max(this.order + 1, Date.now() * 1_000);
    return this.order;
  }

  /** Waits for its turn to be the tab that sends, and sends until the tab is closed. Where turns are not to be had every tab sends: an id is judged once. */
  private async hold(): Promise<void> {
    const run = async () => {
      this.sends = true;
      // What other tabs made while this one was being opened is in the database alone.
      await this.read().catch(() => {});
      this.show({});
      for (;;) await this.step();
    };
    const locks = globalThis.navigator?.locks;
    if (locks) await locks.request(CHANNEL, run);
    else await run();
  }

  /** Sends the first scan whose lane does not wait, or sleeps until one may be sent. */
  private async step(): Promise<void> {
    const now = Date.now();
    const blocked = new Set<string>();
    let soonest = Number.POSITIVE_INFINITY;
    for (const p of this.pending) {
      if (p.aside !== null || blocked.has(p.lane)) continue;
      const until = this.waits.get(p.lane)?.until ?? 0;
      if (until <= now) return this.deliver(p);
      blocked.add(p.lane);
      soonest = Math.min(soonest, until);
    }
    await new Promise<void>(resolve => {
      const timer = Number.isFinite(soonest) ? setTimeout(resolve, soonest - now) : null;
      this.wake = () => {
        if (timer) clearTimeout(timer);
        resolve();
      };
    });
  }

  private async deliver(p: Pending): Promise<void> {
    try {
      const { answer, state } = await this.send(p.paths[0]!, p.scan);
      this.waits.delete(p.lane);
      this.show({ trouble: null, signIn: false });
      // Before the scan is forgotten: a reload at any moment finds one or the other.
      await this.holds(p.lane, state);
      this.done(p, { id: p.id, lane: p.lane, answer, state, judged: true });
    } catch (error) {
      if (error instanceof Refused) this.refused(p, error);
      else this.putOff(p, 'no network');
    }
  }

  private refused(p: Pending, error: Refused): void {
    const { status, retry } = error.problem;
    // Who is signed in now may not do this; whoever made it may, and comes back.
    const ofAnother = status === 403 && p.maker !== null && p.maker.id !== this.me?.id;
    if (status === 401) {
      this.show({ signIn: true });
      this.putOff(p, 'signed out');
    } else if (ofAnother) this.putOff(p, null);
    else if (AWAY.has(status)) this.putOff(p, 'the server has trouble');
    else if (retry !== 'never' && status >= 500) this.faulty(p, error.problem.detail);
    else if (retry !== 'never') this.putOff(p, null);
    else if (status === 404 && p.paths.length > 1) this.change({ ...p, paths: p.paths.slice(1) });
    else {
      const { says, cure } = wordsOf(error);
      const answer: Answer = { kind: 'refused', tone: 'wrong', says, next: cure };
      this.done(p, { id: p.id, lane: p.lane, answer, state: undefined, judged: false });
    }
  }

  /** The server had a fault of its own: after some times the scan is set aside, and those behind it go on. */
  private faulty(p: Pending, why: string): void {
    const faults = p.faults + 1;
    const aside = faults >= MOST_FAULTS ? why : null;
    this.change({ ...p, faults, aside });
    if (aside === null) this.putOff(p, 'the server has trouble');
  }

  /** The lane waits, longer each time; a random share keeps many devices from coming back at the same moment. */
  private putOff(p: Pending, trouble: OutboxView['trouble']): void {
    const times = (this.waits.get(p.lane)?.times ?? 0) + 1;
    const wait = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (times - 1));
    this.waits.set(p.lane, { until: Date.now() + wait * (0.5 + Math.random() / 2), times });
    this.show({ trouble });
  }

  private keep(p: Pending): void {
    if (this.pending.some(x => x.id === p.id)) return;
    this.pending = [...this.pending, p].sort(byOrder);
    this.write(p);
    this.show({});
  }

  /** Writes a scan into the browser's database, and says when that has no room. */
  private write(p: Pending): void {
    this.db?.put('scans', p).then(
      () => this.view.full && this.show({ full: false }),
      () => this.show({ full: true }),
    );
  }

  private change(p: Pending): void {
    this.pending = this.pending.map(x => (x.id === p.id ? p : x));
    this.write(p);
    this.tabs.postMessage({ changed: p } satisfies Message);
    this.show({});
  }

  private done(p: Pending, outcome: Outcome): void {
    this.forget(p.id);
    this.tabs.postMessage({ outcome } satisfies Message);
    for (const hear of this.hearers) hear(outcome);
  }

  private forget(id: string): void {
    this.pending = this.pending.filter(x => x.id !== id);
    void this.db?.delete('scans', id);
    this.show({});
  }

  /** Another tab made a scan, or the one that sends says what became of one. */
  private hear(message: Message): void {
    if ('added' in message) {
      if (!this.pending.some(x => x.id === message.added.id))
        this.pending = [...this.pending, message.added].sort(byOrder);
      this.show({});
      if (this.sends) this.wake();
    } else if ('changed' in message) {
      this.pending = this.pending.map(x => (x.id === message.changed.id ? message.changed : x));
      this.show({});
      if (this.sends) this.hurry();
    } else {
      this.pending = this.pending.filter(x => x.id !== message.outcome.id);
      this.show({});
      for (const hear of this.hearers) hear(message.outcome);
    }
  }

  private show(more: Partial<Omit<OutboxView, 'pending'>>): void {
    const view = { ...this.view, ...more, pending: this.pending };
    this.view = this.pending.length === 0 ? { ...view, trouble: null } : view;
    for (const watcher of this.watchers) watcher();
  }
}

const byOrder = (a: Pending, b: Pending) => a.order - b.order;

/** What an older Auk kept for each screen apart; taken over, and gone there. */
function oldQueues(): Omit<Pending, 'order'>[] {
  const found: Omit<Pending, 'order'>[] = [];
  for (const key of onDevice.names()) {
    if (!key.startsWith(OLD_QUEUES)) continue;
    const session = key.slice(OLD_QUEUES.length);
    const scans = readQueue(onDevice.get(key));
    // What cannot be read is left where it is, and holds up nothing.
    if (!scans) continue;
    for (const scan of scans)
      found.push({
        id: scan.id,
        lane: session,
        paths: ['picking', 'packing', 'receiving'].map(f => `${f}/sessions/${session}/scans`),
        into: 'an earlier list',
        scan,
        maker: null,
        faults: 0,
        aside: null,
      });
    onDevice.drop(key);
  }
  return found;
}

function readQueue(text: string | null): ScanIn[] | null {
  try {
    const read: unknown = JSON.parse(text ?? '[]');
    return Array.isArray(read) ? read : null;
  } catch {
    return null;
  }
}
