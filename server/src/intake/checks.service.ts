import {
  type Address,
  type Conflict,
  checkOrder,
  FIELD_WORDS,
  formatMoney,
  group,
  type OpenDifference,
  type Payment,
  type Stage,
  type StopReason,
  type Suspicion,
  type Value,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { CatalogService } from '../products/products.module.js';
import { refreshStages } from '../records/records.module.js';
import { ADDRESS_TABLES } from '../reference/addressTables.js';
import { Reservations } from '../reservations/reservations.module.js';
import { toChecked } from './checked.js';
import { OrderDifference } from './orderDifference.entity.js';
import { StopAccepted } from './stopAccepted.entity.js';
import { StopReason as StopReasonEntity } from './stopReason.entity.js';

const ROWS = 500;

interface HeadRow {
  id: string;
  payment: Payment;
  shipTo: string;
  channelName: string;
  home: string;
  currency: string;
  elsewhere: number;
}

/** A difference between the channel and us as it is decided; values and lines as JSON. */
export interface DecidedDifference {
  lineKey: string | null;
  field: string;
  theirs: string | null;
  theirLine: string | null;
}

/** Checks orders again whenever something they depend on changed: lifts and raises stop reasons, reserves, derives stages. */
@Injectable()
export class OrderChecks {
  constructor(
    private readonly reservations: Reservations,
    private readonly catalog: CatalogService,
    private readonly house: HouseService,
    private readonly carriers: CarrierRegistry,
  ) {}

  /** Checks orders again, many in few statements. Drafts are left alone. The caller has locked them, or they are new. */
  async recheck(tx: Tx, orderIds: readonly string[]): Promise<Map<string, Stage>> {
    const ids = [...new Set(orderIds)];
    for (let i = 0; i < ids.length; i += ROWS) {
      const part = ids.slice(i, i + ROWS);
      await this.store(tx, part, await this.reasons(tx, part));
    }
    await this.reservations.reserveOpen(tx, ids);
    return refreshStages(tx, ids);
  }

  /** Locks and checks all orders that an open reason of this code and subject stops. Returns how many. */
  async recheckStopped(tx: Tx, codes: readonly string[], subject: string): Promise<number> {
    const ids = await tx.rows<{ id: string }>(
      'SELECT DISTINCT o.id FROM orders o JOIN stopReason s ON s.orderId = o.id AND s.liftedAt IS NULL WHERE s.code IN (?) AND s.subject = ? ORDER BY o.id FOR UPDATE',
      [[...codes], subject],
    );
    tx.holding('orders', ids);
    if (ids.length > 0)
      await this.recheck(
        tx,
        ids.map(r => r.id),
      );
    return ids.length;
  }

  /** Keeps that a suspicion of a repeat was looked at and is none. */
  async accept(tx: Tx, orderId: string, subject: string): Promise<void> {
    await tx
      .of(StopAccepted)
      .upsert({ orderId, code: 'duplicate', subject, at: tx.at, personId: tx.personId }, [
        'orderId',
        'code',
        'subject',
      ]);
  }

  /** Keeps an order's address in Latin letters, for the address that it has now. */
  async giveLatin(tx: Tx, orderId: string, address: Address): Promise<void> {
    await tx.run(
      'REPLACE INTO latinAddress (orderId, ofAddress, address, at, personId) SELECT id, SHA1(shipTo), ?, ?, ? FROM orders WHERE id = ?',
      [JSON.stringify(address), tx.at, tx.personId, orderId],
    );
  }

  /** Takes an open difference as decided and gives it; null when somebody has decided it already. */
  async decide(
    tx: Tx,
    orderId: string,
    differenceId: string,
    taken: boolean,
  ): Promise<DecidedDifference | null> {
    const row = await tx.one<DecidedDifference>(
      'SELECT lineKey, field, theirs, theirLine FROM orderDifference WHERE id = ? AND orderId = ? AND decidedAt IS NULL',
      [differenceId, orderId],
    );
    if (row)
      await tx.of(OrderDifference).update(differenceId, { decidedAt: tx.at, personId: tx.personId, taken });
    return row;
  }

  private async reasons(tx: Tx, ids: readonly string[]): Promise<Map<string, StopReason[]>> {
    const heads = await tx.rows<HeadRow>(
      'SELECT o.id, o.payment, o.shipTo, o.currency, c.name AS channelName, w.country AS home, EXISTS (SELECT 1 FROM sentElsewhere e WHERE e.orderId = o.id) AS elsewhere FROM orders o JOIN channel c ON c.id = o.channelId JOIN warehouse w ON w.id = o.warehouseId WHERE o.id IN (?) AND o.draftedAt IS NULL',
      [ids],
    );
    const lines = await tx.rows<{
      id: string;
      orderId: string;
      channelSku: string;
      title: string;
      productId: string | null;
    }>(
      'SELECT id, orderId, channelSku, title, productId FROM orderLine WHERE orderId IN (?) AND removedAt IS NULL ORDER BY position',
      [ids],
    );
    const parts = await tx.rows<{ lineId: string; productId: string }>(
      'SELECT lineId, productId FROM linePart WHERE orderId IN (?) AND quantity > 0',
      [ids],
    );
    const products = await this.catalog.products(tx, [
      ...new Set([...lines.flatMap(l => l.productId ?? []), ...parts.map(p => p.productId)]),
    ]);
    const [suspicions, differences] = [await openSuspicions(tx, ids), await openDifferences(tx, ids)];
    const letUncodedThrough = await this.house.setting(tx, 'letUncodedThrough', false);
    const latin = await this.carriers.plansLatin(tx);
    const given = latin ? await latinGiven(tx, ids) : new Set<string>();
    const [linesOf, partsOf] = [group(lines, l => l.orderId), group(parts, p => p.lineId)];
    return new Map(
      heads.map(o => [
        o.id,
        checkOrder(
          {
            payment: o.payment,
            shipTo: fromJson(o.shipTo),
            home: o.home,
            letUncodedThrough,
            latinWanted: latin && !given.has(o.id),
            suspicions: suspicions.get(o.id) ?? [],
            differences: (differences.get(o.id) ?? []).map(d => toOpen(d, o.currency)),
            lines: (linesOf.get(o.id) ?? []).map(l => ({
              channelName: o.channelName,
              channelSku: l.channelSku,
              title: l.title,
              product: l.productId ? toChecked(products.get(l.productId)!) : null,
              // Who sends it elsewhere takes nothing from here.
              parts:
                l.productId && (o.elsewhere || partsOf.has(l.id))
                  ? (partsOf.get(l.id) ?? []).map(p => toChecked(products.get(p.productId)!))
                  : null,
            })),
          },
          ADDRESS_TABLES,
        ),
      ]),
    );
  }

  private async store(tx: Tx, ids: readonly string[], reasons: Map<string, StopReason[]>): Promise<void> {
    const open = await tx.rows<{ id: string; orderId: string; code: string; subject: string; says: string }>(
      'SELECT id, orderId, code, subject, says FROM stopReason WHERE orderId IN (?) AND liftedAt IS NULL',
      [ids],
    );
    const keyOf = (orderId: string, r: { code: string; subject: string; says: string }) =>
      `${orderId}\n${r.code}\n${r.subject}\n${r.says}`;
    const raised = [...reasons].flatMap(([id, list]) => list.map(r => [id, storable(r)] as const));
    const wanted = new Set(raised.map(([id, r]) => keyOf(id, r)));
    const known = new Set(open.map(o => keyOf(o.orderId, o)));
    const lifted = open
      .filter(o => reasons.has(o.orderId) && !wanted.has(keyOf(o.orderId, o)))
      .map(o => o.id);
    if (lifted.length > 0)
      await tx.run('UPDATE stopReason SET liftedAt = ? WHERE id IN (?)', [tx.at, lifted]);
    await tx.insert(
      StopReasonEntity,
      raised.filter(([id, r]) => !known.has(keyOf(id, r))).map(([id, r]) => stopRow(tx, id, r)),
    );
  }
}

/** A reason within what is stored of it: names and numbers in it are as long as a channel makes them. */
export const storable = ({ code, subject, says, cure }: StopReason): StopReason => ({
  code,
  subject: cut(subject, 100),
  says: cut(says, 400),
  cure: cut(cure, 200),
});
const cut = (text: string, most: number): string =>
  text.length <= most ? text : [...text].slice(0, most).join('');

/** A stop reason as it is stored. */
export const stopRow = (tx: Pick<Tx, 'at'>, orderId: string, r: StopReason) => ({
  id: newId(),
  orderId,
  ...storable(r),
  raisedAt: tx.at,
  liftedAt: null,
});

/** Orders whose address, as it is now, somebody has given in Latin letters. */
async function latinGiven(sql: Sql, ids: readonly string[]): Promise<Set<string>> {
  const rows = await sql.rows<{ id: string }>(
    'SELECT o.id FROM orders o JOIN latinAddress l ON l.orderId = o.id AND l.ofAddress = SHA1(o.shipTo) WHERE o.id IN (?)',
    [ids],
  );
  return new Set(rows.map(r => r.id));
}

async function openSuspicions(sql: Sql, ids: readonly string[]): Promise<Map<string, Suspicion[]>> {
  const rows = await sql.rows<{ orderId: string; number: string; why: string }>(
    `SELECT s.orderId, x.channelNumber AS number, s.why FROM suspicion s JOIN orders x ON x.id = s.otherId
     WHERE s.orderId IN (?) AND x.cancelledAt IS NULL AND NOT EXISTS (SELECT 1 FROM stopAccepted a WHERE a.orderId = s.orderId AND a.code = 'duplicate' AND a.subject = x.channelNumber) ORDER BY x.no`,
    [ids],
  );
  return group(
    rows.map(r => ({ ...r, why: fromJson<string[]>(r.why) })),
    r => r.orderId,
  );
}

/** A stored difference between the channel and us. */
export interface StoredDifference extends Pick<Conflict, 'field' | 'ours' | 'theirs'> {
  id: string;
  orderId: string;
  lineKey: string | null;
}

/** The differences that no person has decided, by order. */
export async function openDifferences(
  sql: Sql,
  ids: readonly string[],
): Promise<Map<string, StoredDifference[]>> {
  const rows = await sql.rows<
    Omit<StoredDifference, 'ours' | 'theirs'> & { ours: string | null; theirs: string | null }
  >(
    'SELECT id, orderId, lineKey, field, ours, theirs FROM orderDifference WHERE orderId IN (?) AND decidedAt IS NULL ORDER BY id',
    [ids],
  );
  const value = (v: string | null): Value => (v === null ? null : fromJson<{ v: Value }>(v).v);
  return group(
    rows.map(r => ({ ...r, ours: value(r.ours), theirs: value(r.theirs) })),
    r => r.orderId,
  );
}

/** A difference in words. */
export function toOpen(d: StoredDifference, currency: string): OpenDifference {
  const show = (v: Value) =>
    v === null || v === ''
      ? 'nothing'
      : d.field.endsWith('Minor')
        ? formatMoney(Number(v), currency)
        : String(v);
  const line = d.lineKey ? ` of ${d.lineKey.replace(/#\d+$/, '')}` : '';
  return {
    field: `${d.lineKey ?? ''} ${d.field}`.trim(),
    words: d.field === '' ? `the line${line}` : `${FIELD_WORDS[d.field] ?? d.field}${line}`,
    ours: show(d.ours),
    theirs: show(d.theirs),
  };
}
