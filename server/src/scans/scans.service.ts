import type { Judged, ScanIn } from '@auk/contract';
import { type Answer, canonicalCode, type KnownThing, REDUCERS, type Scan, type Step } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { Malformed, NotHere } from '../http/problem.js';
import { ScanSession } from './scanSession.entity.js';

/** A stored session of scans; `state` follows from `opened` and the events. */
export interface SessionRow<S> {
  id: string;
  state: S;
  closedAt: Date | null;
  personId: string | null;
  device: string;
}

/** What a session is about. */
export type SessionAbout =
  | { kind: 'pick'; listId: string }
  | { kind: 'pack'; parcelId: string }
  | { kind: 'receive'; purchaseOrderId: string };

/** Longest text that is stored of a scan; the reducer refuses over-long ones by their length. */
const STORED_TEXT = 260;

/** Takes scans into sessions: each id once, judged by the core, stored with its answer before anything is told. */
@Injectable()
export class ScansService {
  /**
   * Judges one scan of a session within `tx`. The session row is the lock: scans of one session come one after another.
   * `reduce` is the core's; `act` does what its effects ask, in the same transaction.
   */
  async judge<S, E>(
    tx: Tx,
    sessionId: string,
    scan: ScanIn,
    reduce: (state: S, scan: Scan) => Step<S, E>,
    act: (effects: E[], before: S, after: S) => Promise<void>,
  ): Promise<Judged<S>> {
    const session = await this.lock<S>(tx, sessionId);
    const earlier = await tx.one<{ sessionId: string; answer: string }>(
      'SELECT sessionId, answer FROM scanEvent WHERE id = ?',
      [scan.id],
    );
    if (earlier) {
      if (earlier.sessionId !== sessionId)
        throw new Malformed('A scan with this id was made in another session', 'Scan it again.');
      return { answer: fromJson<Answer>(earlier.answer), state: session.state, repeated: true };
    }
    const text = scan.text.length > STORED_TEXT ? scan.text.slice(0, STORED_TEXT) : scan.text;
    const judged: Scan = { ...scan, text };
    let step = reduce(session.state, judged);
    if (step.answer.kind === 'refused') {
      const known = await knownThing(tx, text);
      if (known) {
        judged.known = known;
        step = reduce(session.state, judged);
      }
    }
    await tx.insert('scanEvent', [
      {
        id: scan.id,
        sessionId,
        device: scan.device,
        deviceCount: scan.count,
        deviceAt: new Date(scan.at),
        at: tx.at,
        personId: tx.personId,
        reducers: REDUCERS,
        scan: JSON.stringify(judged),
        answer: JSON.stringify(step.answer),
      },
    ]);
    if (step.state !== session.state)
      await tx.run('UPDATE scanSession SET state = ?, lastScanAt = ? WHERE id = ?', [
        JSON.stringify(step.state),
        tx.at,
        sessionId,
      ]);
    if (step.effects.length > 0) await act(step.effects, session.state, step.state);
    return { answer: step.answer, state: step.state, repeated: false };
  }

  /** Opens a session of scans about one list, parcel or purchase order; gives its id. */
  async open(tx: Tx, about: SessionAbout, state: object, device: string): Promise<string> {
    const id = newId();
    await tx.of(ScanSession).insert({
      id,
      ...about,
      opened: state as never,
      state: state as never,
      openedAt: tx.at,
      personId: tx.personId,
      device,
    });
    return id;
  }

  /** A session goes on with another person or on another device. */
  async handTo(tx: Tx, id: string, device: string): Promise<void> {
    await tx.of(ScanSession).update(id, { device, personId: tx.personId });
  }

  async close(tx: Tx, id: string): Promise<void> {
    await tx.of(ScanSession).update(id, { closedAt: tx.at });
  }

  /** Locks a session and reads it. */
  async lock<S>(tx: Tx, sessionId: string): Promise<SessionRow<S>> {
    const row = await tx.one<SessionRow<string>>(
      'SELECT id, state, closedAt, personId, device FROM scanSession WHERE id = ? FOR UPDATE',
      [sessionId],
    );
    if (!row) throw new NotHere('That scan session', 'Open the list or the order again by its code.');
    return { ...row, state: fromJson<S>(row.state) };
  }
}

/** What a code means anywhere in the house, for refusals that can name it; null when nobody knows it. */
export async function knownThing(sql: Sql, text: string): Promise<KnownThing | null> {
  const code = canonicalCode(text.slice(0, 100));
  const row = await sql.one<KnownThing>(
    `SELECT 'product' AS kind, p.name FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ?
     UNION ALL SELECT 'product', name FROM product WHERE sku = ?
     UNION ALL SELECT IF(kind = 'tote', 'tote', 'place'), code FROM place WHERE code = ? AND kind <> 'parcel'
     UNION ALL SELECT 'order', CONCAT('order ', channelNumber) FROM orders WHERE channelNumber = ? OR no = ?
     UNION ALL SELECT 'box', CONCAT('box ', name) FROM box WHERE code = ? LIMIT 1`,
    [code, code, code, code, /^OR-(\d{1,9})$/.exec(code)?.[1] ?? -1, code],
  );
  return row;
}
