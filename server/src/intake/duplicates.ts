import {
  type Address,
  type DuplicateFacts,
  duplicateKeys,
  type ReceivedOrder,
  SUSPECT_FROM,
  suspectDuplicate,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { fromJson, NONE, type Row, type Tx } from '../database/db.js';
import { Suspicion } from './suspicion.entity.js';

/** A suspicion that an order repeats another. */
export interface Found {
  orderId: string;
  otherId: string;
  number: string;
  score: number;
  why: string[];
}

interface Candidate extends DuplicateFacts {
  id: string;
  number: string;
}

/** A new order as it is held against others. */
export interface FreshOrder {
  id: string;
  received: Pick<ReceivedOrder, 'channelNumber' | 'placedAt' | 'mail' | 'shipTo'>;
  lines: readonly Row[];
}

/** Orders longer ago than this are no repeats any more. */
const DAYS = 3;
const ROWS = 500;

/** Finds orders that look like a purchase made twice. */
@Injectable()
export class DuplicateSearch {
  /** Suspicions of new orders against orders of the last three days and against each other; each order is held against the newest like it. */
  async among(tx: Tx, fresh: readonly FreshOrder[]): Promise<Found[]> {
    const orders = fresh.map(f => ({
      ...factsOf(
        f.received.mail,
        f.received.shipTo,
        f.received.placedAt ? Date.parse(f.received.placedAt) : tx.at.getTime(),
      ),
      id: f.id,
      number: f.received.channelNumber,
      lines: f.lines.map(l => ({ key: String(l.productId ?? l.channelSku), quantity: Number(l.quantity) })),
    }));
    const seen = new Map<string, Candidate>();
    for (const c of await this.candidates(tx, orders)) for (const key of duplicateKeys(c)) seen.set(key, c);
    return orders.flatMap(o => {
      const keys = duplicateKeys(o);
      const near = [...new Set(keys.flatMap(k => seen.get(k) ?? []))];
      for (const k of keys) seen.set(k, o);
      return near.flatMap(n => {
        const { score, why } = suspectDuplicate(o, n);
        return score >= SUSPECT_FROM ? [{ orderId: o.id, otherId: n.id, number: n.number, score, why }] : [];
      });
    });
  }

  store(tx: Tx, found: readonly Found[]): Promise<void> {
    return tx.upsert(
      Suspicion,
      found.map(f => ({
        orderId: f.orderId,
        otherId: f.otherId,
        score: f.score,
        why: JSON.stringify(f.why),
      })),
      ['score'],
    );
  }

  private async candidates(tx: Tx, orders: readonly Candidate[]): Promise<Candidate[]> {
    const since = new Date(tx.at.getTime() - DAYS * 86_400_000);
    const found = new Map<string, Candidate>();
    for (let i = 0; i < orders.length; i += ROWS) {
      const part = orders.slice(i, i + ROWS);
      const mails = [...new Set(part.map(o => o.mail).filter(Boolean)), NONE];
      const names = [...new Set(part.map(o => o.name))];
      const rows = await tx.rows<{
        id: string;
        number: string;
        mail: string;
        shipTo: string;
        placedAt: Date | null;
        receivedAt: Date;
      }>(
        `SELECT id, channelNumber AS number, mail, shipTo, placedAt, receivedAt FROM orders WHERE mail IN (?) AND receivedAt > ? AND cancelledAt IS NULL AND draftedAt IS NULL
         UNION SELECT id, channelNumber, mail, shipTo, placedAt, receivedAt FROM orders WHERE buyer IN (?) AND receivedAt > ? AND cancelledAt IS NULL AND draftedAt IS NULL`,
        [mails, since, names, since],
      );
      for (const r of rows)
        found.set(r.id, {
          ...factsOf(r.mail, fromJson(r.shipTo), (r.placedAt ?? r.receivedAt).getTime()),
          id: r.id,
          number: r.number,
          lines: [],
        });
    }
    for (const o of orders) found.delete(o.id);
    const lines = await tx.rows<{ orderId: string; key: string; quantity: number }>(
      'SELECT orderId, COALESCE(productId, channelSku) AS `key`, quantity FROM orderLine WHERE orderId IN (?) AND removedAt IS NULL',
      [[...found.keys(), NONE]],
    );
    for (const l of lines) found.get(l.orderId)!.lines = [...found.get(l.orderId)!.lines, l];
    return [...found.values()];
  }
}

const factsOf = (mail: string, a: Address, placedAt: number): DuplicateFacts => ({
  mail,
  name: a.name,
  street: a.line1,
  postcode: a.postcode,
  lines: [],
  placedAt,
});
