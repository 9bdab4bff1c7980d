import type { Judged, ScanIn } from '@auk/contract';
import { type Answer, carried, type KnownThing, REDUCERS, type Scan, type Step } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { In, IsNull } from 'typeorm';
import { refuseTooOld } from '../acts/age.js';
import { Db, fromJson, newId, type Tx } from '../database/db.js';
import { Busy, Malformed, NotHere, TooLate } from '../http/problem.js';
import { ScanEvent } from './scanEvent.entity.js';
import { ScanSession, type SessionKind } from './scanSession.entity.js';
import { earlierScan, isPerson, knownThing, lockSession, oldSessions } from './scans.queries.js';

/** A stored session of scans; `state` follows from `opened` and the events. */
export interface SessionRow<S> {
  id: string;
  kind: SessionKind;
  state: S;
  closedAt: Date | null;
  personId: string | null;
  device: string;
}

/** What a session is about. */
export type SessionAbout =
  | { kind: 'pick'; listId: string }
  | { kind: 'pack'; orderId: string }
  | { kind: 'receive'; purchaseOrderId: string }
  | { kind: 'handover'; departureId: string }
  | { kind: 'draft'; orderId: string }
  | { kind: 'count'; placeId: string }
  | { kind: 'build'; buildId: string }
  | { kind: 'sort'; placeId: string }
  | { kind: 'prepare'; inboundShipmentId: string };

/** What a judge makes of a scan: the answer, and the state it leads to. */
export interface Judgement<S> {
  answer: Answer;
  state: S;
}

/**
 * What the house knows of a scan that no reducer can: `before` looks it up before it is judged, `after` adds to what is known of a code
 * that was refused.
 */
export interface Knowing<S> {
  before?: (state: S, scan: Scan) => Promise<KnownThing | null>;
  after?: (state: S, known: KnownThing) => Promise<KnownThing>;
}

/** The device of what the house itself says into a session. */
const HOUSE = 'house';
/** Kinds whose closed sessions take no more scans: what they counted is booked. */
const BOOKED = new Set<SessionKind>(['count', 'build', 'sort', 'prepare']);
/** Longest text that is stored of a scan; the reducer refuses over-long ones by their length. */
const STORED_TEXT = 260;

/**
 * The one door for scans of all screens. A scan comes with its id, device, count and time into a session; it is judged once, and kept
 * with its answer before anything is told. The same id again gets the same answer.
 */
@Injectable()
export class ScansService {
  constructor(private readonly db: Db) {}

  /**
   * Judges one scan of a session within `tx`. The session row is the lock: scans of one session come one after another. What `judge`
   * does to the house is in the same transaction.
   */
  async take<S>(
    tx: Tx,
    kind: SessionKind,
    sessionId: string,
    { maker, ...scan }: ScanIn,
    judge: (session: SessionRow<S>, scan: Scan) => Promise<Judgement<S>>,
  ): Promise<Judged<S>> {
    refuseTooOld(scan.id, tx.at);
    const session = await this.lock<S>(tx, sessionId);
    if (session.kind !== kind)
      throw new NotHere('That scan session', 'Open the list or the order again by its code.');
    const earlier = await earlierScan(tx, scan.id);
    if (earlier) {
      if (earlier.sessionId !== sessionId)
        throw new Malformed('A scan with this id was made in another session', 'Scan it again.');
      return { answer: fromJson<Answer>(earlier.answer), state: session.state, repeated: true };
    }
    if (session.closedAt && BOOKED.has(session.kind))
      throw new TooLate('What was counted here is in the books already.', 'Begin anew and scan it again.');
    const kept: Scan = { ...scan, text: scan.text.slice(0, STORED_TEXT) };
    const sender = await this.inNameOf(tx, maker);
    const { answer, state } = await judge(session, kept);
    await tx.insert(ScanEvent, [
      {
        id: scan.id,
        sessionId,
        device: scan.device,
        deviceCount: scan.count,
        deviceAt: new Date(scan.at),
        at: tx.at,
        personId: tx.personId,
        sentById: sender,
        reducers: REDUCERS,
        scan: JSON.stringify(kept),
        answer: JSON.stringify(answer),
      },
    ]);
    const changed = state === session.state ? {} : { state: state as never };
    await tx.of(ScanSession).update(sessionId, { ...changed, lastScanAt: tx.at });
    return { answer, state, repeated: false };
  }

  /** What a scan does is done in the name of who made it. Gives who sent it, when that is somebody else. */
  async inNameOf(tx: Tx, maker: string | undefined): Promise<string | null> {
    if (maker === undefined || maker === tx.personId) return null;
    if (!(await isPerson(tx, maker)))
      throw new Malformed('Nobody here has made this scan.', 'Scan it again.');
    const sender = tx.personId;
    tx.personId = maker;
    return sender;
  }

  /** Judges a scan by a reducer of the core; `act` does what its effects ask, in the same transaction. */
  async judge<S, E>(
    tx: Tx,
    kind: SessionKind,
    sessionId: string,
    scan: ScanIn,
    reduce: (state: S, scan: Scan) => Step<S, E>,
    act: (effects: E[], before: S, after: S) => Promise<void> = async () => {},
    knowing: Knowing<S> = {},
  ): Promise<Judged<S>> {
    let step: Step<S, E> | null = null;
    let before: S | null = null;
    const judged = await this.take<S>(tx, kind, sessionId, scan, async (session, kept) => {
      before = session.state;
      const beforehand = await knowing.before?.(session.state, kept);
      if (beforehand) kept.known = beforehand;
      step = reduce(session.state, kept);
      if (!beforehand && (step.answer.kind === 'refused' || step.answer.kind === 'unknown')) {
        const thing = await knownThing(tx, kept.text);
        const known = thing && knowing.after ? await knowing.after(session.state, thing) : thing;
        if (known || step.answer.kind === 'unknown') {
          kept.known = known;
          step = reduce(session.state, kept);
        }
      }
      return step;
    });
    const { effects } = (step as Step<S, E> | null) ?? { effects: [] };
    if (effects.length > 0) await act(effects, before!, judged.state);
    return judged;
  }

  /**
   * The house itself says something into a session that this transaction holds: facts that its reducer takes in as it takes in a scan,
   * kept among the scans. Gives what came of it.
   */
  async tell<S, N>(
    tx: Tx,
    sessionId: string,
    state: S,
    news: N,
    reduce: (state: S, scan: Scan & { news: N }) => Step<S, unknown>,
  ): Promise<Judgement<S>> {
    const scan = { id: newId(), text: '', at: tx.at.toISOString(), device: HOUSE, count: 0, news };
    const { state: after, answer } = reduce(state, scan);
    await tx.insert(ScanEvent, [
      {
        id: scan.id,
        sessionId,
        device: HOUSE,
        deviceCount: 0,
        deviceAt: tx.at,
        at: tx.at,
        personId: null,
        sentById: null,
        reducers: REDUCERS,
        scan: JSON.stringify(scan),
        answer: JSON.stringify(answer),
      },
    ]);
    await tx.of(ScanSession).update(sessionId, { state: after as never });
    return { state: after, answer };
  }

  /** Opens a session of scans about one thing; gives its id. */
  async open(tx: Tx, about: SessionAbout, state: object, device: string, id = newId()): Promise<string> {
    await tx.of(ScanSession).insert({
      id,
      ...about,
      opened: state as never,
      state: state as never,
      openedAt: tx.at,
      personId: tx.personId,
      device,
      reducers: REDUCERS,
    });
    return id;
  }

  /** The one session about a thing, opened by its first scan. Two first scans at once open one. */
  async of(tx: Tx, about: SessionAbout, device: string): Promise<string> {
    const sessions = tx.of(ScanSession);
    const known = await sessions.findOne({ where: about, select: { id: true } });
    if (known) return known.id;
    const session = { id: newId(), ...about, personId: tx.personId, device, openedAt: tx.at };
    const nothing = { opened: {} as never, state: {} as never, reducers: REDUCERS };
    await sessions
      .createQueryBuilder()
      .insert()
      .orIgnore()
      .values({ ...session, ...nothing })
      .execute();
    const made = await sessions.findOne({ where: about, select: { id: true } });
    if (!made) throw new NotHere('What was to be scanned here');
    return made.id;
  }

  /** A session goes on with another person or on another device. */
  async handTo(tx: Tx, id: string, device: string): Promise<void> {
    await tx.of(ScanSession).update(id, { device, personId: tx.personId });
  }

  /** Forgets sessions, with their scans, of which the last was so many days ago; what is still being worked on stays. */
  async forget(days: number): Promise<void> {
    const ids = await oldSessions(this.db, days);
    if (ids.length === 0) return;
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await tx.of(ScanEvent).delete({ sessionId: In(ids) });
      await tx.of(ScanSession).delete({ id: In(ids) });
    });
  }

  /** A closed session goes on. */
  async openAgain(tx: Tx, id: string): Promise<void> {
    await tx.of(ScanSession).update(id, { closedAt: null });
  }

  /** Closes a session, if there is one of that id and it is open. */
  async close(tx: Tx, id: string): Promise<void> {
    await tx.of(ScanSession).update({ id, closedAt: IsNull() }, { closedAt: tx.at });
  }

  /** A session that may be there, locked; null when it is not. */
  async find<S>(tx: Tx, sessionId: string): Promise<SessionRow<S> | null> {
    const known = await tx.of(ScanSession).existsBy({ id: sessionId });
    return known ? this.lock<S>(tx, sessionId) : null;
  }

  /** Locks a session and reads it, its state as the reducers of today understand it. */
  async lock<S>(tx: Tx, sessionId: string): Promise<SessionRow<S>> {
    const row = await lockSession(tx, sessionId);
    if (!row) throw new NotHere('That scan session', 'Open the list or the order again by its code.');
    const { reducers, ...session } = row;
    const stored = fromJson<S>(row.state);
    if (reducers === REDUCERS) return { ...session, state: stored };
    const state = carried(stored, reducers);
    if (state === null)
      throw new Busy(
        'A newer Auk went on with this meanwhile, and this server is still the older one.',
        'Try again in a minute, when this server is new too.',
      );
    await tx.of(ScanSession).update(sessionId, { reducers: REDUCERS, state: state as never });
    return { ...session, state };
  }
}
