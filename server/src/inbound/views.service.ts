import type {
  ChosenWay,
  InboundBoxView,
  InboundLineView,
  InboundPalletView,
  InboundPartView,
  InboundRow,
  InboundView,
  NetworkBookingIn,
  NetworkRules,
  PackedBoxView,
} from '@auk/contract';
import { type Address, count, draftSections, palletPlan } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson } from '../database/db.js';
import { Centers } from '../elsewhere/elsewhere.module.js';
import { HouseService } from '../house/house.module.js';
import { boxesOf, contentsOf, countedBefore, ordersOfParts, shipments, storyOf } from './inbound.queries.js';
import { InboundDifference } from './inboundDifference.entity.js';
import type { InboundPart } from './inboundPart.entity.js';
import { InboundPartLine } from './inboundPartLine.entity.js';
import { InboundLoading, type Loaded, type LoadedLine, oursOf } from './loading.service.js';
import { InboundPlans } from './plans.service.js';

type Story = Awaited<ReturnType<typeof storyOf>>;

/** Shipments as they are shown. */
@Injectable()
export class InboundViews {
  constructor(
    private readonly db: Db,
    private readonly loading: InboundLoading,
    private readonly house: HouseService,
    private readonly centers: Centers,
    private readonly plans: InboundPlans,
  ) {}

  async list(): Promise<InboundRow[]> {
    const rows = await shipments(this.db);
    return rows.map(({ no, centers, createdAt, why, open, ...r }) => ({
      ...r,
      no: `IN-${no}`,
      centers: centers ?? '',
      createdAt: createdAt.toISOString(),
      trouble: open > 0 ? `${count(open, 'difference')} to decide` : (why ?? ''),
    }));
  }

  networks = async (): Promise<string[]> => (await this.centers.list()).map(c => c.name);

  async one(no: string): Promise<InboundView> {
    const loaded = await this.loading.load(this.db, no);
    const { shipment, parts, rules, silent, currency } = loaded;
    const story = await storyOf(this.db, shipment.id);
    const orders = await ordersOfParts(this.db, shipment.id);
    const shown: InboundPartView[] = [];
    for (const part of parts) {
      const order = orders.find(o => o.partId === part.id);
      shown.push(await this.part(part, order ?? null, story, loaded));
    }
    const from = await this.house.sender(this.db);
    return {
      no: `IN-${shipment.no}`,
      name: shipment.name,
      network: shipment.network,
      stage: shipment.stage,
      source: shipment.source,
      storage: shipment.storage,
      shipDay: shipment.shipDay,
      weeks: shipment.weeks,
      handing: shipment.handing,
      door: shipment.door,
      from: `our own house, ${from.city}`,
      currency,
      rules,
      silent,
      lines: loaded.lines.map(l => lineView(l, parts)),
      sections: this.sections(loaded, shown, from.city),
      way: shipment.way ? fromJson<ChosenWay>(shipment.way) : null,
      planCode: shipment.planCode,
      planChanged: await this.planChanged(loaded, shown),
      parts: shown,
      story: story.map(({ partId: _, ...e }) => ({ ...e, at: e.at.toISOString() })),
    };
  }

  /** What the network has changed of its plan, with the boxes that hold what is to go elsewhere. */
  private async planChanged(
    { shipment, lines }: Loaded,
    shown: readonly InboundPartView[],
  ): Promise<InboundView['planChanged']> {
    const changes = await this.plans.changes(this.db, shipment);
    return changes.map(c => ({
      ...c,
      name: lines.find(l => l.product.sku === c.sku)?.product.name ?? c.sku,
      boxes: shown
        .filter(p => p.center === c.center && p.stage !== 'Cancelled' && c.now < c.before)
        .flatMap(p => p.boxes)
        .filter(b => b.contents.some(x => x.sku === c.sku))
        .map(b => b.parcel),
    }));
  }

  private sections({ shipment, lines, parts }: Loaded, shown: InboundPartView[], city: string) {
    const reserved = parts.some(p => p.orderId !== null);
    const live = shown.filter(p => p.stage !== 'Cancelled');
    const from = { house: `our own house, ${city}`, supplier: 'the supplier', abroad: 'abroad' };
    return draftSections({
      from: from[shipment.source],
      network: shipment.network,
      storage: shipment.storage,
      lines: lines.map(l => ({
        sku: l.product.sku,
        units: l.line.units,
        free: reserved ? l.line.units : l.free,
        code: l.code,
        confirmed: l.line.confirmedAt !== null,
        lacking: l.lacking,
        prepared: l.line.prepared,
        toPrepare: oursOf(l).length > 0 ? l.line.units : 0,
        refused: l.refused,
      })),
      boxes: live.length === 0 ? null : boxesDone(live),
    });
  }

  private async part(
    part: InboundPart,
    order: { id: string; no: number; stage: string } | null,
    story: Story,
    { lines, shipment, rules }: Loaded,
  ): Promise<InboundPartView> {
    const wanted = await this.db.of(InboundPartLine).findBy({ partId: part.id });
    const differences = await this.db.of(InboundDifference).findBy({ partId: part.id });
    const minor = part.bookedMinor ?? null;
    const planned = fromJson<InboundBoxView[]>(part.boxes);
    const onPallets = shipment.way !== null && fromJson<ChosenWay>(shipment.way).form === 'pallets';
    const { city } = fromJson<Address>(part.address);
    const boxes = order ? await this.packed(part, order.id, story) : [];
    return {
      id: part.id,
      center: part.center,
      town: city,
      stage: part.stage,
      order: order && { id: order.id, no: `OR-${order.no}`, stage: order.stage },
      lines: wanted.map(w => ({
        sku: lines.find(l => l.product.id === w.productId)?.product.sku ?? '',
        units: w.units,
      })),
      planned,
      pallets: onPallets && rules ? palletViews(rules, planned) : [],
      boxes,
      loaded: loadedPallets(part, boxes),
      booking: {
        state: part.bookState,
        no: part.bookNo,
        minor,
        currency: part.currency,
        freeUntil: part.freeUntil?.toISOString() ?? null,
        why: part.why,
      },
      late: part.late,
      differences: differences.map(({ id, sscc, code, missing, surplus, stranger, state, reason }) => ({
        id,
        sscc,
        code,
        missing,
        surplus,
        stranger: !!stranger,
        state,
        reason,
      })),
    };
  }

  private async packed(part: InboundPart, orderId: string, story: Story): Promise<PackedBoxView[]> {
    const boxes = (await boxesOf(this.db, orderId)).filter(b => b.closedAt !== null);
    if (boxes.length === 0) return [];
    const contents = await contentsOf(
      this.db,
      boxes.map(b => b.id),
    );
    const counted = await countedBefore(this.db, part.id);
    const theirs = part.tracking ? fromJson<string[]>(part.tracking) : [];
    const asked = part.asked ? fromJson<NetworkBookingIn>(part.asked) : null;
    return boxes.map(b => ({
      parcel: `PA-${b.no}`,
      sscc: b.sscc,
      box: b.boxCode,
      weightMg: b.weightMg,
      tracking: b.tracking ?? theirs[asked ? pieceOf(asked, b.sscc) : -1] ?? null,
      contents: contents
        .filter(c => c.parcelId === b.id)
        .map(({ sku, units, lot, expiry }) => ({
          sku,
          units,
          lot,
          expiry,
          counted: part.countedAt
            ? (counted.find(c => c.sscc === b.sscc && c.code === sku)?.units ?? 0)
            : null,
        })),
      events: story
        .filter(e => e.partId === part.id && e.sscc === b.sscc)
        .map(e => ({ at: e.at.toISOString(), says: e.says })),
    }));
  }
}

/** The how-manieth piece of a booking a box is, or stands on. */
const pieceOf = ({ form, pallets, boxes }: NetworkBookingIn, sscc: string | null): number =>
  form === 'pallets'
    ? pallets.findIndex(p => p.boxes.some(b => b === sscc))
    : boxes.findIndex(b => b.sscc === sscc);

/** The pallets of a part as they were numbered when its price was asked for. */
function loadedPallets(part: InboundPart, boxes: readonly PackedBoxView[]): InboundPartView['loaded'] {
  if (!part.asked || part.stage === 'Cancelled') return [];
  return fromJson<NetworkBookingIn>(part.asked).pallets.map(({ boxes: on, ...p }, i) => ({
    ...p,
    no: i + 1,
    parcels: boxes.flatMap(b => (b.sscc && on.includes(b.sscc) ? [b.parcel] : [])),
  }));
}

/** The pallets that planned boxes need. */
function palletViews({ pallet: kind }: NetworkRules, boxes: readonly InboundBoxView[]): InboundPalletView[] {
  const { pallets } = palletPlan(
    kind,
    boxes.map(b => ({ box: { code: b.code, inner: b.inner }, weightMg: b.weightMg })),
  );
  return pallets.map((p, i) => ({
    no: i + 1,
    boxes: p.boxes,
    size: { length: kind.length, width: kind.width, height: p.height },
    weightMg: p.weightMg,
    seam: p.seam,
    placed: p.placed.map(({ piece, ...at }) => ({ ...at, code: piece.id })),
  }));
}

function lineView(l: LoadedLine, parts: readonly InboundPart[]): InboundLineView {
  const reserved = parts.some(p => p.orderId !== null);
  return {
    sku: l.product.sku,
    name: l.product.name,
    picture: l.product.picture,
    units: l.line.units,
    perCase: l.line.perCase,
    caseOf: l.caseOf,
    caseGuessed:
      l.line.perCase !== null &&
      !l.product.cases.some(c => c.units === l.line.perCase && c.size !== null && c.weightMg !== null),
    free: reserved ? l.line.units : l.free,
    there: l.there,
    onTheWay: l.onTheWay,
    proposal: l.proposal,
    code: l.code,
    confirmed: l.line.confirmed,
    category: l.line.category,
    needs: l.needs.map(n => ({ needs: n.needs, feeMinor: n.feeMinor })),
    by: l.line.preparedBy,
    prepared: l.line.prepared,
    spoiled: l.line.spoiled,
    lacking: l.lacking,
    refused: l.refused,
  };
}

/** Boxes of all parts: planned ones while a part is not packed, else those that are. */
function boxesDone(parts: readonly InboundPartView[]): { count: number; packed: number } {
  const packed = parts.reduce((n, p) => n + p.boxes.length, 0);
  const whole = (p: InboundPartView) => p.stage !== 'Draft';
  return {
    count: parts.reduce(
      (n, p) => n + (whole(p) ? p.boxes.length : Math.max(p.planned.length, p.boxes.length)),
      0,
    ),
    packed,
  };
}
