import type { ChosenWay, InboundWays, NetworkPlan, NetworkRules, NetworkSite, WayIn } from '@auk/contract';
import {
  type Box,
  type ComparedWay,
  type InboundBox,
  type InboundBoxes,
  type PlanPart,
  preparationsOf,
  quoted,
  storageMinor,
  theirRates,
  type WayAsk,
  type WayCarrier,
  type WayNetwork,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, newId, type Sql, type Tx } from '../database/db.js';
import { Centers } from '../elsewhere/elsewhere.module.js';
import { daysAround, HouseService } from '../house/house.module.js';
import { Busy, Forbidden, NotHere } from '../http/problem.js';
import { CatalogService } from '../products/products.module.js';
import { zonePlace } from '../reference/postcodes.js';
import { boxView } from './boxView.js';
import { InboundLine } from './inboundLine.entity.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundPartLine } from './inboundPartLine.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { linesToBox } from './linesToBox.js';
import {
  InboundLoading,
  type Loaded,
  type LoadedLine,
  mustBeAsLoaded,
  mustBeKnown,
  toPrepare,
} from './loading.service.js';
import { partsOf } from './plans.service.js';
import { lockShipment, mustBeDraft, tell } from './shipments.js';
import { planAside } from './waysThread.js';

/** From this weight on a service is for pallets, in milligrams. */
const PALLET_MG = 45_000_000;
const PALLET_MINOR = 1_400;
/** Minutes of our own work. */
const MINUTES = { box: 3, pallet: 12 };

/** What goes to one center, with its planned boxes. */
export interface PlacedPart {
  lines: LoadedLine[];
  boxes: InboundBox[];
}

/** Ways of a shipment beside each other, and the one that is chosen. */
@Injectable()
export class InboundWaysService {
  constructor(
    private readonly db: Db,
    private readonly loading: InboundLoading,
    private readonly centers: Centers,
    private readonly carriers: CarrierRegistry,
    private readonly house: HouseService,
    private readonly catalog: CatalogService,
  ) {}

  async compare(no: string): Promise<InboundWays> {
    const loaded = await this.loading.load(this.db, no);
    const { table, planned, boxes } = await this.table(loaded);
    return {
      table,
      dropped: planned.dropped,
      left: planned.left.map(l => ({ sku: l.id, why: l.why })),
      boxes: boxes.boxes.map(boxView),
      bound: boxes.bound,
    };
  }

  private async table(loaded: Loaded) {
    const rules = mustBeKnown(loaded);
    const lines = linesToBox(loaded.lines);
    const kinds = await this.kinds(this.db);
    const networks = [{ name: loaded.shipment.network, rules }, ...(await this.loading.others(loaded))];
    const ask: WayAsk = {
      ...(await this.offering(loaded, networks)),
      lines,
      boxes: kinds,
      pallet: rules.pallet,
      palletMinor: PALLET_MINOR,
      networks: networks.map(n => networkOf(loaded, n)),
      handing: loaded.shipment.handing,
      door: loaded.shipment.door,
      minutes: MINUTES,
    };
    const sales = loaded.lines.map(({ ratePerDay, earnsMinor, there, line }) => ({
      ratePerDay,
      earnsMinor,
      there,
      units: line.units,
    }));
    const { ways, boxes } = await planAside({
      ways: { ask, sales },
      boxes: [{ kinds, lines, limits: rules.limits }],
    });
    return { ...ways!, boxes: boxes[0]! };
  }

  /** Boxes that goods go into a shipment in. */
  private async kinds(sql: Sql): Promise<Box[]> {
    return (await this.catalog.boxes(sql)).filter(b => b.kind !== 'mailer');
  }

  /** Where it is sent from, and who carries it at whose rates. */
  private async offering(
    { currency }: Loaded,
    networks: readonly Network[],
  ): Promise<Pick<WayAsk, 'from' | 'carriers'>> {
    const { zone, postcode, country } = await this.house.warehouse(this.db);
    const serving = await this.carriers.serving(this.db, daysAround(new Date(), zone).today);
    const ours = serving.flatMap(({ carrier, account, sheet }): WayCarrier[] => {
      if (!sheet || sheet.currency !== currency) return [];
      const name = account.number === '' ? carrier.name : `${carrier.name}, ${account.name}`;
      const forms = {
        parcels: sheet.services.filter(s => s.leastMg < PALLET_MG),
        pallets: sheet.services.filter(s => s.leastMg >= PALLET_MG),
      };
      return (['parcels', 'pallets'] as const).flatMap(form =>
        forms[form].length > 0 ? [{ name, of: null, form, services: forms[form] }] : [],
      );
    });
    const theirs = networks.flatMap(({ name, rules }) => {
      const countries = [...new Set([rules.dock, ...rules.centers].map(s => s.address.country))];
      return rules.freight.map(
        (f): WayCarrier => ({
          name: f.name,
          of: name,
          form: f.form,
          services: [theirRates(f, countries)],
          handing: f,
        }),
      );
    });
    return { from: zonePlace(country, postcode), carriers: [...theirs, ...ours] };
  }

  /** Chooses a way: the network says which center takes what, and the boxes of each are planned. */
  async choose(no: string, way: WayIn, doer: Doer): Promise<void> {
    const loaded = await this.loading.load(this.db, no);
    mustBeDraft(loaded.shipment, loaded.parts);
    if (way.network && way.network !== loaded.shipment.network)
      return this.goElsewhere(no, way.network, doer);
    const rules = mustBeKnown(loaded);
    mustBeReady(loaded);
    const { table } = await this.table(loaded);
    const row = table.ways.find(
      w =>
        w.network === loaded.shipment.network &&
        w.placement === way.placement &&
        w.form === way.form &&
        w.carrier === way.carrier &&
        w.rates === way.rates,
    );
    if (!row)
      throw new Forbidden(
        `There is no way by ${way.carrier}, ${way.placement}, as ${way.form} any more.`,
        'Look at the ways again and choose another.',
      );
    const answer = await this.centers.plan(loaded.shipment.network, {
      placement: way.placement,
      storage: loaded.shipment.storage,
      lines: loaded.lines.map(l => ({
        code: l.product.sku,
        units: l.line.units,
        perCase: l.line.perCase ?? 1,
      })),
    });
    if (answer.kind === 'silent')
      throw new Busy(answer.why, 'Try again in a minute; nothing was chosen yet.');
    if (answer.kind !== 'answered')
      throw new Forbidden(answer.why, 'Change the shipment, or choose another way.');
    const parts = await this.boxesOf(loaded, partsOf(answer.value), rules);
    await this.db.tx(doer, tx => this.keep(tx, loaded, way, row, rules, answer.value, parts));
  }

  /** The shipment goes to another network: what its codes are there is asked anew, and so is the way. */
  private goElsewhere(no: string, network: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const shipment = await lockShipment(tx, no);
      mustBeDraft(shipment, await tx.of(InboundPart).findBy({ shipmentId: shipment.id }));
      if (!(await this.centers.list(tx)).some(c => c.name === network))
        throw new NotHere(`The network ${quoted(network)}`, 'Connect it first under Receiving.');
      await this.forget(tx, shipment.id);
      await tx.of(InboundShipment).update(shipment.id, { network });
      await tx
        .of(InboundLine)
        .update(
          { shipmentId: shipment.id },
          { scans: null, category: null, askedAt: null, confirmed: null, confirmedAt: null },
        );
      await tell(tx, shipment.id, `It goes to ${network} instead of ${shipment.network}.`);
      await tx.tell('inbound', `IN-${shipment.no}`);
    });
  }

  /** The lines and the boxes of each part as the network placed it. */
  async boxesOf(loaded: Loaded, placed: readonly PlanPart[], rules: NetworkRules): Promise<PlacedPart[]> {
    const kinds = await this.kinds(this.db);
    const parts = placed.map(({ lines }) => {
      const units = new Map(lines.map(l => [l.sku, l.units]));
      return loaded.lines.flatMap(l => {
        const n = units.get(l.product.sku);
        return n ? [{ ...l, line: { ...l.line, units: n } as InboundLine }] : [];
      });
    });
    const { boxes } = await planAside({
      ways: null,
      boxes: parts.map(lines => ({ kinds, lines: linesToBox(lines), limits: rules.limits })),
    });
    boxes.forEach(mustFit);
    return parts.map((lines, i) => ({ lines, boxes: boxes[i]!.boxes }));
  }

  private async keep(
    tx: Tx,
    loaded: Loaded,
    way: WayIn,
    row: ComparedWay,
    rules: NetworkRules,
    plan: NetworkPlan,
    placed: readonly PlacedPart[],
  ): Promise<void> {
    const shipment = await lockShipment(tx, `IN-${loaded.shipment.no}`);
    const before = await tx.of(InboundPart).findBy({ shipmentId: shipment.id });
    mustBeDraft(shipment, before);
    await mustBeAsLoaded(tx, shipment, loaded);
    await this.forget(tx, shipment.id);
    for (const [i, part] of plan.parts.entries())
      await this.insertPart(tx, { shipmentId: shipment.id, seq: i + 1, site: part.site }, placed[i]!);
    for (const r of plan.refused) await this.leaves(tx, shipment.id, loaded, r);
    const differs = differenceOf(way, rules, plan);
    const chosen: ChosenWay = {
      ...way,
      sumMinor: row.sumMinor,
      perUnit: row.perUnit,
      days: row.days,
      differs,
    };
    await tx
      .of(InboundShipment)
      .update(shipment.id, { way: chosen as never, placedAt: tx.at, planCode: plan.plan });
    await tell(
      tx,
      shipment.id,
      `Goes ${way.placement === 'spread' ? 'spread' : 'to one dock'}, as ${way.form}, by ${way.carrier}.${differs ? ` ${differs}` : ''}`,
    );
    await tx.tell('inbound', `IN-${shipment.no}`);
  }

  /** Keeps what goes to one center, in which boxes; gives its id. */
  async insertPart(
    tx: Tx,
    { shipmentId, seq, site }: { shipmentId: string; seq: number; site: NetworkSite },
    { lines, boxes }: PlacedPart,
  ): Promise<string> {
    const id = newId();
    await tx.insert(InboundPart, [
      {
        id,
        shipmentId,
        seq,
        center: site.center,
        address: JSON.stringify(site.address),
        boxes: JSON.stringify(boxes.map(boxView)),
      },
    ]);
    await tx.insert(
      InboundPartLine,
      lines.map(l => ({ partId: id, productId: l.product.id, units: l.line.units })),
    );
    return id;
  }

  /** A product that the network does not take leaves the draft. */
  private async leaves(
    tx: Tx,
    shipmentId: string,
    { lines }: Loaded,
    { code, why }: NetworkPlan['refused'][number],
  ): Promise<void> {
    const found = lines.find(l => l.product.sku === code);
    if (!found) return;
    await tx.of(InboundLine).delete(found.line.id);
    await tell(tx, shipmentId, `${found.product.name} is not taken there and left the draft: ${why}`);
  }

  /** Goods or boxes change: what was chosen and planned is not true any more. */
  async forget(tx: Tx, shipmentId: string): Promise<void> {
    const parts = await tx.of(InboundPart).find({ where: { shipmentId }, select: { id: true } });
    for (const { id } of parts) await tx.of(InboundPartLine).delete({ partId: id });
    await tx.of(InboundPart).delete({ shipmentId });
    await tx.of(InboundShipment).update(shipmentId, {
      way: null as never,
      placedAt: null,
      planCode: null,
      planNow: null as never,
    });
  }
}

/** Nothing is placed of which something is unknown, or that is not taken there. */
function mustBeReady({ lines }: Loaded): void {
  if (lines.length === 0) throw new Forbidden('The shipment has no goods yet.', 'Say what is to go first.');
  const refused = lines.find(l => l.refused);
  if (refused)
    throw new Forbidden(
      `${refused.product.name} is not taken there: ${refused.refused}`,
      'Take it out of the shipment.',
    );
  const lacking = lines.find(l => l.lacking.length > 0);
  if (lacking)
    throw new Forbidden(
      `Of ${lacking.product.name} ${lacking.lacking[0]!.says}.`,
      'Give it on the page of the product, then choose the way again.',
    );
  const other = lines.find(l => l.code?.state === 'other' && !l.line.confirmedAt);
  if (other)
    throw new Forbidden(
      `${other.product.name} has ${other.code!.ours ?? 'no code'} here, and they will scan ${other.code!.theirs}.`,
      'Scan one of it to see which is right, or ask them to change it.',
    );
}

function mustFit({ left }: InboundBoxes): void {
  const [first] = left;
  if (first)
    throw new Forbidden(
      `${first.id} goes into no box that is taken there: ${first.why}`,
      'Add a box for it under Setup > Boxes, or take it out of the shipment.',
    );
}

/** A network with its rules in the house's currency. */
interface Network {
  name: string;
  rules: NetworkRules;
}

function networkOf({ shipment, lines }: Loaded, { name, rules }: Network): WayNetwork {
  return {
    name,
    dock: {
      center: rules.dock.center,
      at: zonePlace(rules.dock.address.country, rules.dock.address.postcode),
    },
    centers: rules.centers.map(c => ({
      center: c.center,
      share: c.share,
      at: zonePlace(c.address.country, c.address.postcode),
    })),
    feeMinor: rules.feeMinor,
    daysToSale: rules.daysToSale,
    storageMinor: Math.round(
      storageMinor(rules.storageMinor[shipment.storage], shipment.weeks, rules.storageSteps),
    ),
    takes: rules.takes,
    limits: rules.limits,
    pallet: rules.pallet,
    prepare: lines.map(l => preparationsOf(toPrepare(l.product), rules.preparation)),
  };
}

/** Where the network answers otherwise than was estimated from its shares. */
function differenceOf(way: WayIn, rules: NetworkRules, plan: NetworkPlan): string {
  const expected = way.placement === 'one dock' ? [rules.dock.center] : rules.centers.map(c => c.center);
  const got = plan.parts.map(p => p.site.center);
  const less = expected.filter(c => !got.includes(c));
  const more = got.filter(c => !expected.includes(c));
  return [
    less.length > 0 ? `Nothing goes to ${less.join(', ')}, other than expected.` : '',
    more.length > 0 ? `${more.join(', ')} was not expected.` : '',
  ]
    .filter(Boolean)
    .join(' ');
}
