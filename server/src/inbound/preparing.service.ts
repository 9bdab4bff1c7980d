import type {
  InboundPreparedIn,
  Judged,
  OpenedPreparing,
  OpenPreparing,
  ScanIn,
  ToPrepareRow,
} from '@auk/contract';
import {
  openPrepare,
  type PrepareEffect,
  type PrepareLine,
  type PrepareState,
  prepareScan,
  unitLabelCode,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { PrintQueue } from '../benches/benches.module.js';
import { Db, type Doer, type Tx } from '../database/db.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { Spoiled } from '../packing/packing.module.js';
import { ScansService } from '../scans/scans.module.js';
import { lineOfSku, openPreparingOf, shipmentOfSession, shipmentsToPrepare } from './inbound.queries.js';
import { InboundLine } from './inboundLine.entity.js';
import { InboundPart } from './inboundPart.entity.js';
import type { InboundShipment } from './inboundShipment.entity.js';
import { InboundLoading, type Loaded, oursOf } from './loading.service.js';
import { lockShipment, tell } from './shipments.js';

/** Units are made ready for a network at a bench, by scan or counted by hand: each counts once, and what is spoiled is written off. */
@Injectable()
export class InboundPreparing {
  constructor(
    private readonly db: Db,
    private readonly loading: InboundLoading,
    private readonly scans: ScansService,
    private readonly prints: PrintQueue,
    private readonly spoiled: Spoiled,
  ) {}

  /** Reserved shipments of which units are still to be prepared by us, the one that leaves first before the others. */
  async waiting(): Promise<ToPrepareRow[]> {
    const rows: ToPrepareRow[] = [];
    for (const { no } of await shipmentsToPrepare(this.db)) {
      const { shipment, lines } = await this.loading.load(this.db, `IN-${no}`);
      const ours = lines.filter(l => oursOf(l).length > 0).map(l => l.line);
      const units = ours.reduce((n, l) => n + l.units, 0);
      const prepared = ours.reduce((n, l) => n + l.prepared, 0);
      const { name, network, shipDay } = shipment;
      if (prepared < units) rows.push({ no: `IN-${no}`, name, network, shipDay, units, prepared });
    }
    return rows;
  }

  /**
   * Opens a shipment for preparing. What is under way goes on, on whichever device, as long as the shipment is as that session knows it;
   * else it begins anew from what is prepared.
   */
  async open({ code, device }: OpenPreparing, doer: Doer): Promise<OpenedPreparing> {
    const loaded = await this.loading.load(this.db, code);
    return this.db.tx(doer, async tx => {
      const shipment = await lockShipment(tx, code);
      const state = await this.stateOf(tx, shipment, loaded);
      const printer = await this.prints.labelPrinterAt(tx, device);
      const about = { no: `IN-${shipment.no}`, printer };
      const known = await openPreparingOf(tx, shipment.id);
      const session = known && (await this.scans.lock<PrepareState>(tx, known.id));
      if (session && isSame(session.state, state)) {
        await this.scans.handTo(tx, session.id, device);
        return { ...about, sessionId: session.id, state: session.state };
      }
      if (session) await this.scans.close(tx, session.id);
      const what = { kind: 'prepare', inboundShipmentId: shipment.id } as const;
      return { ...about, sessionId: await this.scans.open(tx, what, state, device), state };
    });
  }

  private async stateOf(tx: Tx, shipment: InboundShipment, { lines }: Loaded): Promise<PrepareState> {
    const parts = await tx.of(InboundPart).findBy({ shipmentId: shipment.id });
    if (!parts.some(p => p.orderId !== null))
      throw new Forbidden(
        `${shipment.name} is not reserved yet, so nothing of it is picked.`,
        'Reserve it and have it picked first.',
      );
    mustBeHere(shipment);
    const ours = lines.filter(l => oursOf(l).length > 0);
    if (ours.length === 0)
      throw new Forbidden(`Nothing of ${shipment.name} is prepared by us.`, 'Pack it at a bench as it is.');
    const now = new Map((await tx.of(InboundLine).findBy({ shipmentId: shipment.id })).map(l => [l.id, l]));
    return openPrepare(
      `IN-${shipment.no}`,
      shipment.name,
      ours.map((l): PrepareLine => {
        const { id, sku, name, codes, picture, hint } = l.product;
        const needs = oursOf(l);
        const { units, prepared, spoiled } = now.get(l.line.id)!;
        return {
          id: l.line.id,
          product: { id, sku, name, codes, picture, hint },
          needs,
          label: needs.includes('label') ? unitLabelCode(l.code, sku) : null,
          wanted: units,
          done: prepared,
          spoiled,
        };
      }),
    );
  }

  /** Judges a scan at preparing; what it does to the shipment and the stock is in the same transaction. */
  scan(sessionId: string, scan: ScanIn, doer: Doer): Promise<Judged<PrepareState>> {
    return this.db.tx(doer, async tx => {
      const of = await shipmentOfSession(tx, sessionId);
      if (!of) throw new NotHere('That scan session', 'Scan the number of the shipment again.');
      const shipment = await lockShipment(tx, `IN-${of.no}`);
      return this.scans.judge<PrepareState, PrepareEffect>(
        tx,
        'prepare',
        sessionId,
        scan,
        prepareScan,
        (effects, _, after) => this.act(tx, shipment, scan.device, effects, after),
      );
    });
  }

  private async act(
    tx: Tx,
    shipment: InboundShipment,
    device: string,
    effects: readonly PrepareEffect[],
    { lines }: PrepareState,
  ): Promise<void> {
    mustBeHere(shipment);
    for (const e of effects) {
      const { product, label } = lines.find(l => l.id === e.lineId)!;
      if (e.type === 'done') await this.count(tx, e.lineId, e.units);
      if (e.type === 'spoil') await this.spoil(tx, shipment, e.lineId, 1);
      if (e.type === 'print') {
        const { orderId } = (await tx.of(InboundPart).findBy({ shipmentId: shipment.id })).find(
          p => p.orderId !== null && p.stage !== 'Cancelled',
        )!;
        const tags = { code: label!, words: product.name, small: product.sku, count: e.labels };
        await this.prints.addTags(tx, { device, orderId: orderId! }, tags);
      }
    }
    await tx.tell('inbound', `IN-${shipment.no}`);
  }

  private async count(tx: Tx, lineId: string, units: number): Promise<void> {
    const line = (await tx.of(InboundLine).findOneBy({ id: lineId }))!;
    const prepared = line.prepared + units;
    if (prepared < 0 || prepared > line.units)
      throw new TooLate(
        'Somebody else has counted what is prepared of it.',
        'Scan the number of the shipment again; what is counted stays.',
      );
    await tx.of(InboundLine).update(lineId, { prepared });
  }

  /** Picked units are written off; the order of the part lacks them until others are picked. */
  private async spoil(tx: Tx, shipment: InboundShipment, lineId: string, units: number): Promise<void> {
    const line = (await tx.of(InboundLine).findOneBy({ id: lineId }))!;
    const parts = await tx.of(InboundPart).findBy({ shipmentId: shipment.id });
    const orderIds = parts.flatMap(p => (p.orderId && p.stage !== 'Cancelled' ? [p.orderId] : []));
    if (orderIds.length === 0)
      throw new Forbidden(
        `${shipment.name} is not reserved yet, so nothing of it is picked.`,
        'Write it off where it lies, under Stock.',
      );
    const reason = `spoiled while it was prepared for IN-${shipment.no}`;
    await this.spoiled.writeOff(tx, { orderIds, productId: line.productId, units, reason });
    await tx.of(InboundLine).update(lineId, { spoiled: line.spoiled + units });
  }

  /** Units that were prepared without scanning, and units that were spoiled at it; a portion counts once. */
  prepared(no: string, { key, sku, done, spoiled }: InboundPreparedIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const shipment = await lockShipment(tx, no);
      await once(tx, key, 'prepare', async () => {
        const found = await lineOfSku(tx, shipment.id, sku);
        if (!found) throw new NotHere(`${sku} in ${shipment.name}`, 'Scan something that goes with it.');
        const line = (await tx.of(InboundLine).findOneBy({ id: found.id }))!;
        if (line.prepared + done > line.units)
          throw new Forbidden(
            `${line.units} × ${sku} go with ${shipment.name}, and ${line.prepared} are prepared; ${done} more would be too many.`,
            `Say at most ${line.units - line.prepared}.`,
          );
        await this.count(tx, line.id, done);
        if (spoiled > 0) {
          await this.spoil(tx, shipment, line.id, spoiled);
          await tell(tx, shipment.id, `${spoiled} × ${sku} spoiled while they were prepared.`);
        }
        await tx.tell('inbound', `IN-${shipment.no}`);
      });
    });
  }
}

function mustBeHere(shipment: InboundShipment): void {
  if (shipment.stage !== 'Draft')
    throw new Forbidden(
      `${shipment.name} is ${shipment.stage}: what is packed is not prepared any more.`,
      'Open its boxes at the bench again first, if something is not ready.',
    );
}

/** Whether a session knows the shipment as it is. */
function isSame(known: PrepareState, now: PrepareState): boolean {
  const of = ({ lines }: PrepareState) =>
    JSON.stringify(lines.map(l => [l.id, l.wanted, l.done, l.needs, l.label]));
  return of(known) === of(now);
}
