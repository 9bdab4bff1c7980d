import type { Charge, LabelView, ParcelListRow, ParcelView } from '@auk/contract';
import { type Address, addressLines, formatMoney, type Payment } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, fromJson, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { NotHere } from '../http/problem.js';
import { troubleOnTheWay } from './onTheWay.js';
import { parcelState } from './parcelState.js';

/** One parcel with what its label and rating need. */
export interface ParcelRow {
  id: string;
  no: number;
  orderId: string;
  channelNumber: string;
  shipTo: string;
  promised: string | null;
  shippingMinor: number;
  currency: string;
  boxCode: string | null;
  boxName: string | null;
  weightMg: number | null;
  closedAt: Date | null;
  /** Planned before anybody packs: priced by its plan. */
  aheadAt: Date | null;
  departedAt: Date | null;
  length: number;
  width: number;
  height: number;
  /** The service that a person chose for its order. */
  chosen: string | null;
  /** What rules decided for its order. */
  ruled: string | null;
  /** The service that all products in it prefer that prefer one; several are written in several lines. */
  preferred: string | null;
  /** Its address in Latin letters, where somebody has given it. */
  latin: string | null;
  /** What is in it by the products' own values, in house money; null where one of them has none. */
  worthMinor: number | null;
  pickUpPoint: string;
  payment: Payment;
  totalMinor: number;
  paidMinor: number;
  seq: number;
}

/** What is in a parcel; of one that is planned ahead, all that its order holds. */
const INSIDE = '(a.parcelKey = c.id OR (c.aheadAt IS NOT NULL AND a.orderId = c.orderId))';

/** Boxes of shipments whose network fetches them, or that are not booked yet, are no parcels for carriers: they are under Inbound. */
const OF_CARRIERS = `NOT EXISTS (SELECT 1 FROM inboundPart i JOIN inboundShipment n ON n.id = i.shipmentId
  WHERE i.orderId = c.orderId AND (JSON_VALUE(n.way, '$.rates') = 'theirs' OR i.bookState <> 'booked'))`;

/** After so many days nobody looks for a parcel any more. */
const TROUBLE_DAYS = 60;

/** Reads of parcels and their labels. */
@Injectable()
export class ParcelsQueries {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly carriers: CarrierRegistry,
  ) {}

  parcel(sql: Sql, no: number): Promise<ParcelRow | null> {
    return sql.one(
      `SELECT c.id, c.no, c.orderId, o.channelNumber, o.shipTo, o.promised, o.shippingMinor, o.currency, c.boxCode, c.weightMg, c.closedAt, c.aheadAt, c.departedAt, b.name AS boxName, b.length, b.width, b.height, s.chosen, s.ruled,
         (SELECT CAST(l.address AS CHAR) FROM latinAddress l WHERE l.orderId = o.id AND l.ofAddress = SHA1(o.shipTo)) AS latin, o.pickUpPoint, o.payment, o.totalMinor, o.paidMinor, c.seq, (SELECT GROUP_CONCAT(DISTINCT JSON_VALUE(p.facts, '$.service') SEPARATOR '\\n') FROM allocation a JOIN product p ON p.id = a.productId WHERE ${INSIDE} AND a.quantity > 0) AS preferred,
         (SELECT IF(SUM(p.valueMinor IS NULL) > 0, NULL, CAST(SUM(a.quantity * p.valueMinor) AS SIGNED)) FROM allocation a JOIN product p ON p.id = a.productId WHERE ${INSIDE} AND a.quantity > 0) AS worthMinor
       FROM parcel c JOIN orders o ON o.id = c.orderId LEFT JOIN shipment s ON s.id = c.shipmentId LEFT JOIN box b ON b.code = c.boxCode WHERE c.no = ?`,
      [no],
    );
  }

  /** The label of a parcel, or the one for its way back: the live purchase, or the last refused one. */
  async label(parcelId: string, back = false): Promise<LabelView | null> {
    const row = await this.db.one<Omit<LabelView, 'service' | 'pdf'> & { serviceName: string; no: number }>(
      `SELECT b.id, b.state, b.carrierName, b.serviceName, COALESCE(b.chargedMinor, b.minor) AS minor, b.currency, b.tracking, b.why, b.arrives, c.no
       FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.parcelId = ? AND b.back = ? ORDER BY COALESCE(b.liveParcel, b.liveReturn) IS NULL, b.intendedAt DESC LIMIT 1`,
      [parcelId, back],
    );
    if (!row) return null;
    const { serviceName, no, ...label } = row;
    return {
      ...label,
      service: serviceName,
      pdf: row.state === 'bought' ? `/api/v1/parcels/PA-${no}/${back ? 'return' : 'label'}.pdf` : null,
    };
  }

  /**
   * Parcels in the house and those that left in the last hours, newest first; after them those that are in trouble on
   * their way. The parcel that somebody comes for stands before all, however long ago it left.
   */
  async list(look?: number): Promise<ParcelListRow[]> {
    const wanted = look === undefined ? [] : await this.rows('c.no = ?', [look]);
    const here = await this.rows(
      `((c.departedAt IS NULL AND (c.aheadAt IS NULL OR b.id IS NOT NULL)) OR c.departedAt > NOW() - INTERVAL 12 HOUR) AND ${OF_CARRIERS}`,
      [],
    );
    const away = await this.rows(
      `c.id IN (SELECT x.parcelId FROM trackedParcel y JOIN label x ON x.id = y.labelId
         WHERE y.state IS NULL OR y.state <> 'delivered') AND c.departedAt <= NOW() - INTERVAL 12 HOUR AND c.departedAt > NOW() - INTERVAL ${TROUBLE_DAYS} DAY`,
      [],
    );
    const others = [...here, ...away.filter(p => p.trouble !== null)];
    return [...wanted, ...others.filter(p => p.no !== wanted[0]?.no)];
  }

  /** All parcels of an order, in their order. */
  async ofOrder(orderId: string): Promise<ParcelListRow[]> {
    const rows = await this.rows('c.orderId = ? AND (c.aheadAt IS NULL OR b.id IS NOT NULL)', [orderId]);
    return rows.sort((a, b) => Number(a.no.slice(3)) - Number(b.no.slice(3)));
  }

  /** Whether papers go with a parcel: it leaves the country, or carries what is hazardous. */
  async wantsPapers(sql: Sql, no: number): Promise<boolean> {
    const row = await sql.one<{ wants: number }>(
      `SELECT JSON_VALUE(o.shipTo, '$.country') <> w.country OR EXISTS (SELECT 1 FROM allocation a JOIN product p ON p.id = a.productId WHERE a.parcelKey = c.id AND a.quantity > 0 AND JSON_VALUE(p.facts, '$.hazardous') = 1) AS wants
       FROM parcel c JOIN orders o ON o.id = c.orderId JOIN warehouse w ON w.id = o.warehouseId WHERE c.no = ?`,
      [no],
    );
    return !!row?.wants;
  }

  private async rows(which: string, params: unknown[]): Promise<ParcelListRow[]> {
    const rows = await this.db.rows<
      Omit<ParcelListRow, 'no' | 'order' | 'state' | 'trouble'> & {
        no: number;
        orderNo: number;
        closedAt: Date | null;
        misfit: string | null;
        departedAt: Date | null;
        handedOverAt: Date | null;
        labelState: string | null;
        arrives: string | null;
        promised: string | null;
        says: string | null;
        since: Date | null;
        leftAt: Date | null;
      }
    >(
      `SELECT c.no, o.no AS orderNo, o.channelNumber, o.buyer, c.closedAt, c.misfit, c.departedAt, c.handedOverAt, b.state AS labelState, b.carrierName AS carrier, b.serviceName AS service, b.tracking,
         COALESCE(b.chargedMinor, b.minor) AS minor, COALESCE(b.currency, o.currency) AS currency, c.weightMg, x.name AS box, CONCAT(d.carrierName, ', ', d.name) AS departure, CONCAT('DE-', d.no) AS departureNo, b.why, t.state AS track, t.says, t.since, t.leftAt, b.arrives, o.promised
       FROM parcel c JOIN orders o ON o.id = c.orderId LEFT JOIN label b ON b.liveParcel = c.id LEFT JOIN trackedParcel t ON t.labelId = b.id LEFT JOIN box x ON x.code = c.boxCode LEFT JOIN departure d ON d.id = c.departureId
       WHERE ${which} ORDER BY c.departedAt IS NOT NULL, c.no DESC LIMIT 300`,
      params,
    );
    const days = await this.house.days(this.db, new Date());
    const closed = await this.carriers.closedDays(this.db);
    return rows.map(
      ({
        no,
        orderNo,
        closedAt,
        misfit,
        departedAt,
        handedOverAt,
        labelState,
        arrives,
        promised,
        says,
        since,
        leftAt,
        ...r
      }) => ({
        ...r,
        no: `PA-${no}`,
        order: `OR-${orderNo}`,
        state: parcelState({ closedAt, misfit, handedOverAt, departedAt, label: labelState }),
        why: r.why ?? misfit,
        trouble:
          leftAt && arrives
            ? troubleOnTheWay({ state: r.track, says: says!, since, leftAt, arrives, promised }, days, closed)
            : null,
      }),
    );
  }

  /** One parcel with its address, what is in it, and what was bought for it. */
  async view(no: number): Promise<ParcelView> {
    const [row] = await this.rows('c.no = ?', [no]);
    if (!row) throw new NotHere(`The parcel PA-${no}`);
    const order = (await this.parcel(this.db, no))!;
    const contents = await this.db.rows<ParcelView['contents'][number]>(
      `SELECT p.sku, p.name, CAST(SUM(a.quantity) AS SIGNED) AS quantity FROM allocation a JOIN product p ON p.id = a.productId
       WHERE a.parcelKey = ? AND a.quantity > 0 GROUP BY p.sku, p.name ORDER BY p.sku`,
      [order.id],
    );
    const labels = await this.db.rows<LabelOfParcel>(
      `SELECT b.state, b.carrierName, b.serviceName AS service, COALESCE(b.chargedMinor, b.minor) AS minor, b.refundMinor, b.currency, b.charges, b.zone, b.billable, b.arrives, b.elsewhere, b.why, b.tracking,
         b.liveParcel FROM label b WHERE b.parcelId = ? AND NOT b.back ORDER BY b.intendedAt DESC LIMIT 20`,
      [order.id],
    );
    const live = labels.find(l => l.liveParcel !== null);
    const { country: home } = await this.house.warehouse(this.db);
    return {
      ...row,
      orderId: order.orderId,
      address: addressLines(fromJson<Address>(order.shipTo), home),
      contents,
      promised: order.promised,
      papers: await this.wantsPapers(this.db, no),
      label: live
        ? {
            state: live.state,
            carrierName: live.carrierName,
            service: live.service,
            minor: live.minor,
            currency: live.currency,
            charges: live.charges ? fromJson<Charge[]>(live.charges) : [],
            zone: live.zone,
            billable: live.billable,
            arrives: live.arrives,
            elsewhere: !!live.elsewhere,
            why: live.why,
          }
        : null,
      returnLabel: await this.label(order.id, true),
      before: labels.filter(l => l !== live).map(l => ({ state: l.state, says: becameOf(l) })),
    };
  }
}

interface LabelOfParcel {
  state: string;
  carrierName: string;
  service: string;
  minor: number;
  refundMinor: number | null;
  currency: string;
  charges: string | null;
  zone: string | null;
  billable: string | null;
  arrives: string;
  elsewhere: number;
  why: string | null;
  tracking: string | null;
  liveParcel: string | null;
}

function becameOf(l: LabelOfParcel): string {
  const what = `${l.carrierName}, ${l.service}, ${formatMoney(l.minor, l.currency)}`;
  return l.state === 'voided'
    ? `${what}: given back${l.refundMinor ? `, ${formatMoney(l.refundMinor, l.currency)} came back` : ''}.`
    : `${what}: ${l.state}. ${l.why ?? ''}`.trim();
}
