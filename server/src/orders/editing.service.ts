import type { ChangedMeanwhile, LineIn, OrderEdit } from '@auk/contract';
import {
  actOnLines,
  applied,
  apportion,
  type Change,
  canonicalCode,
  diffDocuments,
  documentTotals,
  lineKeys,
  lineRate,
  type OrderDocument,
  type PricedLine,
  paidWhen,
  touchesGoods,
  type Value,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, type Tx } from '../database/db.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { OrderChecks } from '../intake/intake.module.js';
import {
  addressFields,
  GivingUp,
  HEAD_COLUMNS,
  loadOrders,
  OrderWriter,
  refuseHouseOrder,
  type StoredOrder,
  sentElsewhere,
  skuOfKey,
  Undoing,
} from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { changesSince, sold } from './editing.queries.js';

type Fields = Record<string, Value>;

/** Edits of orders by people: every field, lines one by one or all at once, and what the channel and we disagree on. */
@Injectable()
export class OrderEditing {
  constructor(
    private readonly db: Db,
    private readonly writer: OrderWriter,
    private readonly checks: OrderChecks,
    private readonly reservations: Reservations,
    private readonly undoing: Undoing,
    private readonly givingUp: GivingUp,
  ) {}

  /** Applies an edit whole or not at all. Someone else's change since the version that was seen is shown first; what the edit undoes must be agreed to. */
  edit(id: string, edit: OrderEdit, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const order = await this.locked(tx, id);
      await refuseHouseOrder(tx, id);
      if (order.version !== edit.version) throw await changedMeanwhile(tx, order, edit.version);
      const after = await this.edited(tx, order, edit);
      await this.put(tx, order, after, edit.undo, 'Changed');
    });
  }

  /** Writes a document over an order as a person's act, with all that follows from it. */
  async put(tx: Tx, order: StoredOrder, after: OrderDocument, undo: boolean, says: string): Promise<void> {
    const changes = diffDocuments(order.document, after);
    if (changes.length === 0) return;
    if (order.stage === 'Cancelled' || order.stage === 'Departed') {
      const allowed = changes.every(
        c => c.field === 'paidMinor' || c.field === 'payment' || c.field === 'mail',
      );
      if (!allowed)
        throw new Forbidden(
          `The order is ${order.stage}.`,
          'Only its payment and mail can still be corrected.',
        );
    }
    const sent = await sentElsewhere(tx, order.id);
    // An address may be mended until it is ordered there; what is sent stays as it was routed.
    const touched = changes.some(c => touchesGoods(c) && (c.line !== null || sent?.placedAt));
    if (sent && touched)
      throw new Forbidden(
        `${order.channelNumber} is ordered from somebody else, who sends it as it is.`,
        'Send it from here again first, on its page; or tell them.',
      );
    await this.undoFor(tx, order, changes, undo);
    const { freed } = await this.writer.write(tx, order, after, { kind: 'edited', says: `${says}.` });
    await this.settle(tx, order, freed);
  }

  private async undoFor(
    tx: Tx,
    order: StoredOrder,
    changes: readonly Change[],
    agreed: boolean,
  ): Promise<void> {
    const goods = changes.some(c => c.line !== null && touchesGoods(c));
    if (!goods && !changes.some(touchesGoods)) return;
    const undoes = await this.undoing.what(tx, order.id, goods, true);
    if (undoes.state === 'nothing') return;
    if (undoes.state === 'blocked' || !agreed)
      throw new Forbidden(undoes.says, undoes.cure, { undoes: undoes.state });
    if (undoes.packing) await this.givingUp.lock(tx, order.id);
    else await this.undoing.takeBack(tx, order.id);
  }

  private async settle(tx: Tx, order: StoredOrder, freed: readonly string[]): Promise<void> {
    if (!order.draft) await this.checks.recheck(tx, [order.id]);
    await this.reservations.reserveAgain(tx, freed);
    await tx.tell('orders', order.id);
  }

  /** Takes the channel's word in one difference, or keeps ours; either way it is decided. */
  decide(orderId: string, differenceId: string, take: boolean, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const order = await this.locked(tx, orderId);
      const row = await this.checks.decide(tx, orderId, differenceId, take);
      if (!row)
        throw new NotHere('That difference', 'Someone has decided it already; look at the order again.');
      if (take) await this.put(tx, order, taken(order.document, row), true, 'The channel’s word was taken');
      await this.settle(tx, order, []);
    });
  }

  /** Locks one order and gives it with its document. */
  async locked(tx: Tx, id: string): Promise<StoredOrder> {
    const order = (await loadOrders(tx, [id], true)).get(id);
    if (!order) throw new NotHere('That order');
    return order;
  }

  /** Refuses an act on an order that is not any more what the person saw. */
  sameVersion(order: StoredOrder, seen: number): void {
    if (order.version !== seen)
      throw new TooLate(
        'Someone changed the order while you were at it.',
        'Look at it again, then repeat it.',
      );
  }

  /** The document with one more line, or more units of one that is there. */
  async withLine(tx: Tx, order: StoredOrder, line: LineIn): Promise<OrderDocument> {
    const after = applied(order.document, []);
    await this.newLine(tx, order, after, line);
    return after;
  }

  private async edited(tx: Tx, order: StoredOrder, edit: OrderEdit): Promise<OrderDocument> {
    const after = applied(order.document, []);
    for (const c of HEAD_COLUMNS) if (edit[c] !== undefined) after.head[c] = edit[c] as Value;
    if (edit.shipTo) Object.assign(after.head, addressFields('shipTo', edit.shipTo));
    if (edit.billTo !== undefined) Object.assign(after.head, addressFields('billTo', edit.billTo));
    for (const l of edit.lines ?? []) await this.editLine(tx, order, after, l);
    const whole = edit.all ? onAllLines(order, after, edit.all) : after;
    // How it is paid tells how much, where nobody says it; a draft's sum is not known before it is entered.
    if (edit.payment !== undefined && edit.paidMinor === undefined && !order.draft)
      whole.head.paidMinor = paidWhen(
        edit.payment,
        Number(whole.head.paidMinor ?? 0),
        documentTotals(whole).total,
      );
    return whole;
  }

  private async editLine(tx: Tx, order: StoredOrder, after: OrderDocument, edit: LineIn): Promise<void> {
    if (edit.key === undefined) return this.newLine(tx, order, after, edit);
    const line = after.lines[edit.key];
    if (!line)
      throw new Forbidden(
        `The line ${skuOfKey(edit.key)} is not in the order any more.`,
        'Look at the order again.',
      );
    if (edit.remove) delete after.lines[edit.key];
    else Object.assign(line, retaxed(line, edit));
  }

  private async newLine(tx: Tx, order: StoredOrder, after: OrderDocument, edit: LineIn): Promise<void> {
    const text = edit.sku ?? '';
    const found = await sold(tx, text.toUpperCase(), order.channelId, {
      channelSku: text,
      code: canonicalCode(text),
    });
    if (!found)
      throw new Forbidden(
        `No product or listing has the SKU or code ${text}.`,
        'Find it by its name, or scan it.',
      );
    const quantity = (edit.quantity ?? 1) * found.units;
    const priceMinor = edit.priceMinor ?? found.price ?? 0;
    const like = Object.entries(after.lines).find(
      ([key, l]) => skuOfKey(key) === found.sku && !key.includes('|') && l.priceMinor === priceMinor,
    );
    if (like) {
      like[1].quantity = Number(like[1].quantity) + quantity;
      return;
    }
    const others = Object.keys(after.lines).filter(k => skuOfKey(k) === found.sku);
    const key = freeKey(found.sku, others);
    after.lines[key] = {
      title: edit.title || found.name,
      quantity,
      priceMinor,
      taxMinor: null,
      taxPpm: edit.taxPpm ?? null,
      weightMg: null,
      leaveOut: edit.leaveOut ?? null,
    };
  }
}

/** The first key of a SKU that is not taken. */
function freeKey(sku: string, taken: readonly string[]): string {
  const keys = lineKeys(Array.from({ length: taken.length + 1 }, () => ({ channelSku: sku })));
  return keys.find(k => !taken.includes(k))!;
}

/** A line's fields after an edit. When quantity or price change, a tax that the channel told becomes one by its rate. */
function retaxed(line: Fields, edit: LineIn): Fields {
  const fields: Fields = {};
  for (const f of ['title', 'quantity', 'priceMinor', 'weightMg', 'leaveOut'] as const)
    if (edit[f] !== undefined) fields[f] = edit[f];
  const priced = toPriced(line);
  if (edit.taxPpm !== undefined) return { ...fields, taxPpm: edit.taxPpm, taxMinor: null };
  if (edit.quantity === undefined && edit.priceMinor === undefined) return fields;
  return priced.taxMinor === null ? fields : { ...fields, taxPpm: lineRate(priced), taxMinor: null };
}

const toPriced = (l: Fields): PricedLine => ({
  quantity: Number(l.quantity),
  priceMinor: Number(l.priceMinor),
  taxPpm: l.taxPpm == null ? null : Number(l.taxPpm),
  taxMinor: l.taxMinor == null ? null : Number(l.taxMinor),
});

function onAllLines(order: StoredOrder, d: OrderDocument, act: NonNullable<OrderEdit['all']>): OrderDocument {
  const keys = Object.keys(d.lines);
  const after = applied(d, []);
  if (act.type === 'weight') {
    const weights =
      act.mg === null
        ? keys.map(() => null)
        : apportion(
            act.mg,
            keys.map(k => Number(d.lines[k]!.quantity)),
          );
    keys.forEach((k, i) => (after.lines[k]!.weightMg = weights[i] || null));
    return after;
  }
  const changed = actOnLines(
    keys.map(k => toPriced(d.lines[k]!)),
    act,
    lineRate,
  );
  if (!changed.ok) {
    const line = d.lines[keys[changed.problem.line]!]!;
    throw new Forbidden(
      `The price of ${line.title} would fall under zero.`,
      'Take off less, or change that line alone.',
      { order: order.id },
    );
  }
  changed.value.forEach((l, i) =>
    Object.assign(after.lines[keys[i]!]!, {
      priceMinor: l.priceMinor,
      taxPpm: l.taxPpm,
      taxMinor: l.taxMinor,
    }),
  );
  return after;
}

/** A document with the channel's word of one difference taken. */
function taken(
  d: OrderDocument,
  row: { lineKey: string | null; field: string; theirs: string | null; theirLine: string | null },
): OrderDocument {
  const theirs = row.theirs === null ? null : fromJson<{ v: Value }>(row.theirs).v;
  if (row.field !== '' || row.lineKey === null)
    return applied(d, [{ line: row.lineKey, field: row.field, before: null, after: theirs }]);
  const after = applied(d, []);
  const line = row.theirLine === null ? null : fromJson<Fields | null>(row.theirLine);
  if (line) after.lines[row.lineKey] = line;
  else delete after.lines[row.lineKey];
  return after;
}

/** Says what others changed since a version. */
export async function changedMeanwhile(tx: Tx, order: StoredOrder, seen: number): Promise<TooLate> {
  const rows = await changesSince(tx, order.id, seen);
  const since = rows.map(r => ({
    at: r.at.toISOString(),
    person: r.person,
    says: r.says,
    changes: r.changes ? fromJson<Change[]>(r.changes) : [],
  }));
  const who = [...new Set(since.map(s => s.person ?? 'Auk itself'))].join(' and ') || 'Someone';
  const facts: ChangedMeanwhile = { version: order.version, since };
  return new TooLate(
    `${who} changed the order while you were at it.`,
    'Look at what changed, then save yours on top or let it be.',
    facts,
  );
}
