import type { JudgeIn, ReturnView, TakeBackIn } from '@auk/contract';
import { count } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, newId, type Sql, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { Mails } from '../mails/mails.module.js';
import { UnitFacts } from '../packing/packing.module.js';
import { event, lockOrders, toHistory } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { type Move, PROMISED_FROM, StockService } from '../stock/stock.module.js';
import { Tracking } from '../tracking/tracking.module.js';
import { ReturnedPiece } from './returnedPiece.entity.js';
import { ReturnReceipt } from './returnReceipt.entity.js';
import {
  lockPiece,
  lockSent,
  type PieceToJudge,
  parcelNamed,
  piecesOf,
  placeToPut,
  receipts,
  sentIn,
} from './returns.queries.js';
import { TellingReturns } from './tellingReturns.service.js';

/** Parcels that come back: taken into quarantine against their orders' lines, counted, and judged piece by piece. */
@Injectable()
export class Returns {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly stock: StockService,
    private readonly reservations: Reservations,
    private readonly tracking: Tracking,
    private readonly facts: UnitFacts,
    private readonly mails: Mails,
    private readonly telling: TellingReturns,
  ) {}

  async list(): Promise<ReturnView[]> {
    const rows = await receipts(this.db);
    if (rows.length === 0) return [];
    const pieces = await piecesOf(
      this.db,
      rows.map(r => r.id),
    );
    const { code } = await this.house.placeNamed(this.db, 'quarantine');
    return rows.map(({ no, at, ...r }) => ({
      ...r,
      at: at.toISOString(),
      parcel: `PA-${no}`,
      place: code,
      pieces: pieces.filter(p => p.receiptId === r.id).map(({ receiptId: _, ...p }) => p),
    }));
  }

  /** Takes a parcel back, all that left in it, into quarantine. A parcel comes back once; what is not in it is counted after. */
  takeBack({ key, code }: TakeBackIn, doer: Doer): Promise<{ id: string }> {
    return this.db.tx(doer, tx =>
      once(tx, key, 'take back', () => this.takeBackIn(tx, code.trim().toUpperCase())),
    );
  }

  private async takeBackIn(tx: Tx, code: string): Promise<{ id: string }> {
    const named = await parcelNamed(tx, Number(/^PA-(\d{1,9})$/.exec(code)?.[1] ?? -1), code);
    if (!named)
      throw new NotHere(
        `A parcel with the code ${code.slice(0, 30)}`,
        'Scan its label, or find its order by the buyer.',
      );
    await lockOrders(tx, [named.orderId]);
    const parcel = (await lockSent(tx, named.id))!;
    if (!parcel.departedAt)
      throw new Forbidden(`PA-${parcel.no} has not left the house.`, 'Open it again at the bench instead.');
    const known = await tx.of(ReturnReceipt).findOneBy({ parcelId: parcel.id });
    if (known)
      throw new TooLate(`PA-${parcel.no} came back already.`, 'Look at it in the list.', { id: known.id });
    const sent = await sentIn(tx, parcel.id);
    const id = newId();
    await tx.insert(ReturnReceipt, [
      { id, shipmentId: parcel.shipmentId, parcelId: parcel.id, at: tx.at, personId: tx.personId },
    ]);
    await tx.insert(
      ReturnedPiece,
      sent.map(({ n, ...piece }) => ({ id: newId(), receiptId: id, ...piece, sent: n, quantity: n })),
    );
    const [gone, quarantine] = [await this.house.place(tx, 'gone'), await this.house.place(tx, 'quarantine')];
    const moves = sent.map((s): Move => moveOf(s, gone, quarantine, s.n, 'return', id));
    await this.tracking.back(tx, parcel.id);
    await lockAll(tx, { productStock: moves.map(m => m.productId) });
    await this.stock.apply(tx, { moves });
    await this.facts.cameBack(tx, parcel.id);
    await toHistory(tx, [
      event(
        tx,
        parcel.orderId,
        'returned',
        `PA-${parcel.no} came back; ${count(
          sent.reduce((n, s) => n + s.n, 0),
          'piece',
        )} lie in quarantine.`,
      ),
    ]);
    await tx.tell('parcels', parcel.id);
    return { id };
  }

  /** What was really in it, of what was sent: the rest stays gone, as it was before it came back. */
  countPiece(id: string, quantity: number, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const piece = await this.open(tx, id);
      if (quantity > piece.sent)
        throw new Forbidden(
          `${piece.sent} of ${piece.name} were sent, so that ${quantity} cannot have come back.`,
          'Receive a piece that is not of this order as a find, by a count of its place.',
        );
      if (quantity === piece.quantity) return;
      const [gone, quarantine] = [
        await this.house.place(tx, 'gone'),
        await this.house.place(tx, 'quarantine'),
      ];
      const more = quantity - piece.quantity;
      const [from, to] = more > 0 ? [gone, quarantine] : [quarantine, gone];
      await lockAll(tx, { productStock: [piece.productId] });
      await this.stock.apply(tx, {
        moves: [moveOf(piece, from, to, Math.abs(more), 'return', piece.receiptId)],
      });
      await tx.of(ReturnedPiece).update(id, { quantity });
      await toHistory(tx, [
        event(
          tx,
          piece.orderId,
          'returned',
          `Of ${piece.name}, ${quantity} of ${piece.sent} came back with PA-${piece.no}.`,
        ),
      ]);
      await tx.tell('parcels', piece.receiptId);
    });
  }

  /** Puts pieces back into stock, where orders that wait are promised them, or writes them off. */
  async judge(id: string, how: JudgeIn, doer: Doer): Promise<void> {
    await this.db.tx(doer, tx => once(tx, how.key, 'judge', () => this.judgeIn(tx, id, how)));
  }

  private async judgeIn(tx: Tx, id: string, how: JudgeIn): Promise<void> {
    const to = how.as === 'resell' ? await this.placeOf(tx, how.place) : await this.house.place(tx, 'gone');
    // Orders are locked before the parcel that came back, and goods after it.
    const seen = await tx.of(ReturnedPiece).findOneBy({ id });
    const wanting = seen && how.as === 'resell' ? await this.reservations.wanting(tx, [seen.productId]) : [];
    await lockAll(tx, { orders: wanting });
    const piece = await this.open(tx, id);
    await lockAll(tx, { productStock: [piece.productId] });
    const from = await this.house.place(tx, 'quarantine');
    const reason = how.as === 'write off' ? how.reason : '';
    if (piece.quantity > 0)
      await this.stock.apply(tx, {
        moves: [
          {
            ...moveOf(
              piece,
              from,
              to,
              piece.quantity,
              how.as === 'resell' ? 'move' : 'write off',
              piece.receiptId,
            ),
            reason,
          },
        ],
      });
    if (wanting.length > 0) await this.reservations.reserveLocked(tx, wanting);
    await tx.of(ReturnedPiece).update(id, { judged: how.as, judgedAt: tx.at, personId: tx.personId });
    const became =
      how.as === 'resell' ? `went back into stock at ${how.place.toUpperCase()}` : `written off: ${reason}`;
    await toHistory(tx, [
      event(tx, piece.orderId, 'returned', `${piece.quantity} × ${piece.name} of PA-${piece.no} ${became}.`),
    ]);
    if (!(await tx.of(ReturnedPiece).existsBy({ receiptId: piece.receiptId, judged: 'open' }))) {
      await this.telling.soon(tx, piece.receiptId);
      await this.mails.due(tx, [
        {
          orderId: piece.orderId,
          moment: 'back',
          cause: `judged ${piece.receiptId}`,
          words: { says: 'We have looked at what came back.' },
        },
      ]);
    }
    await tx.tell('parcels', piece.receiptId);
    await tx.tell('stock', piece.productId);
  }

  private async open(tx: Tx, id: string): Promise<PieceToJudge> {
    const piece = await lockPiece(tx, id);
    if (!piece) throw new NotHere('That piece');
    if (piece.judged !== 'open')
      throw new TooLate(
        `${piece.name} of PA-${piece.no} was judged already: ${piece.judged}.`,
        'Look at the list again.',
      );
    return piece;
  }

  private async placeOf(sql: Sql, code: string): Promise<string> {
    const place = await placeToPut(sql, code.toUpperCase());
    if (!place) throw new NotHere(`The place ${code.slice(0, 40)}`, 'Scan the label of a shelf.');
    if (!PROMISED_FROM.has(place.kind))
      throw new Forbidden(`Nothing is sold from ${place.code}.`, 'Scan the label of a shelf.');
    return place.id;
  }
}

const moveOf = (
  piece: { productId: string; lotId: string | null },
  from: string,
  to: string,
  quantity: number,
  why: string,
  causeId: string,
): Move => ({ productId: piece.productId, lotId: piece.lotId, from, to, quantity, why, causeId });
