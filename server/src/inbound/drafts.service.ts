import type {
  InboundChange,
  InboundFileAnswer,
  InboundIn,
  InboundLineIn,
  InboundScanned,
} from '@auk/contract';
import { callName, canonicalCode, quoted, scanForCode } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, newId, type Tx } from '../database/db.js';
import { Centers } from '../elsewhere/elsewhere.module.js';
import { Busy, Forbidden, NotHere } from '../http/problem.js';
import { CatalogService, type Product } from '../products/products.module.js';
import { readTable } from '../reference/table.js';
import { goodsOfBuild, goodsOfPurchase } from './inbound.queries.js';
import { InboundLine } from './inboundLine.entity.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { InboundLoading, mustBeAsLoaded } from './loading.service.js';
import { lockShipment, mustBeDraft, tell } from './shipments.js';
import { InboundWaysService } from './ways.service.js';

/** Most lines of a shipment. */
const MOST_LINES = 500;
const MOST_UNITS = 5_000;

/** Shipments while they are drafts: what goes, with which codes, prepared by whom. */
@Injectable()
export class InboundDrafts {
  constructor(
    private readonly db: Db,
    private readonly centers: Centers,
    private readonly catalog: CatalogService,
    private readonly loading: InboundLoading,
    private readonly ways: InboundWaysService,
  ) {}

  /** Begins a shipment; gives its number. */
  async create(input: InboundIn, doer: Doer): Promise<string> {
    const known = await this.centers.list();
    if (!known.some(c => c.name === input.network))
      throw new NotHere(`The network ${quoted(input.network)}`, 'Connect it first under Receiving.');
    return this.db.tx(doer, tx =>
      once(tx, input.key, 'inbound', async () => {
        const { key: id, network, source, storage } = input;
        await tx.insert(InboundShipment, [
          { id, network, source, storage, createdAt: tx.at, personId: tx.personId },
        ]);
        const { no } = (await tx.of(InboundShipment).findOneBy({ id }))!;
        await tx.of(InboundShipment).update(id, { name: callName(no) });
        await tell(tx, id, `Begun for ${network}.`);
        await tx.tell('inbound', `IN-${no}`);
        return `IN-${no}`;
      }),
    );
  }

  change(no: string, input: InboundChange, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const shipment = await this.draft(tx, no);
      const { source, storage, handing, door } = input;
      const { source: from, storage: stored, handing: handed, door: at } = shipment;
      const other = source !== from || storage !== stored || handing !== handed || door !== at;
      if (other) await this.ways.forget(tx, shipment.id);
      await tx.of(InboundShipment).update(shipment.id, input);
      await tx.tell('inbound', `IN-${shipment.no}`);
    });
  }

  /** Sets a line of a draft; no units take it out. What was chosen before is chosen anew. */
  setLine(no: string, input: InboundLineIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const shipment = await this.draft(tx, no);
      const product = await this.productOf(tx, input.sku);
      await this.put(tx, shipment, product, input);
      await this.ways.forget(tx, shipment.id);
      await tx.tell('inbound', `IN-${shipment.no}`);
    });
  }

  private async put(
    tx: Tx,
    shipment: InboundShipment,
    product: Product,
    { units, inCases, by }: Omit<InboundLineIn, 'sku'>,
  ): Promise<void> {
    const lines = tx.of(InboundLine);
    const known = await lines.findOneBy({ shipmentId: shipment.id, productId: product.id });
    if (units === 0) {
      if (known) await lines.delete(known.id);
      return;
    }
    const cases = product.codes.map(c => c.units).filter(n => n > 1);
    const perCase = inCases ? Math.max(0, ...cases) || null : null;
    if (inCases && perCase === null)
      throw new Forbidden(
        `${product.name} has no code of a case, so nobody knows how many are in one.`,
        'Give it one on its page, or send single units.',
      );
    if (perCase !== null && units % perCase !== 0)
      throw new Forbidden(
        `${units} of ${product.name} fill no whole cases of ${perCase}.`,
        `Send ${Math.floor(units / perCase) * perCase || perCase} or ${Math.ceil(units / perCase) * perCase}, or single units.`,
      );
    const others = (await lines.findBy({ shipmentId: shipment.id })).filter(l => l.productId !== product.id);
    if (others.reduce((n, l) => n + l.units, units) > MOST_UNITS)
      throw new Forbidden(
        `A shipment has ${MOST_UNITS} units at most, so that its boxes can be planned while you wait.`,
        'Begin another one for the rest.',
      );
    if (known) await lines.update(known.id, { units, perCase, preparedBy: by });
    else {
      if (others.length >= MOST_LINES)
        throw new Forbidden(
          `A shipment has at most ${MOST_LINES} products.`,
          'Begin another one for the rest.',
        );
      await tx.insert(InboundLine, [
        { id: newId(), shipmentId: shipment.id, productId: product.id, units, perCase, preparedBy: by },
      ]);
    }
  }

  /** Lines from a file; a row that cannot be read is named, and nothing of the file is taken then. */
  async file(no: string, text: string, doer: Doer): Promise<InboundFileAnswer> {
    const [, ...rows] = await readTable(Buffer.from(text));
    return this.db.tx(doer, async tx => {
      const shipment = await this.draft(tx, no);
      const problems: InboundFileAnswer['problems'] = [];
      const wanted = new Map<string, { product: Product; units: number }>();
      for (const [i, [code = '', amount = '']] of rows.entries()) {
        // The heading is row 1.
        const row = i + 2;
        const units = Number(amount);
        const product = await this.findProduct(tx, code);
        if (!product) problems.push({ row, says: `Nothing here has the code ${quoted(code)}.` });
        else if (!Number.isInteger(units) || units < 1 || units > 100_000)
          problems.push({ row, says: `${quoted(amount)} is no number of units.` });
        else {
          const before = wanted.get(product.id)?.units ?? 0;
          wanted.set(product.id, { product, units: before + units });
        }
      }
      if (problems.length > 0) return { taken: 0, problems };
      for (const { product, units } of wanted.values())
        await this.put(tx, shipment, product, { units, inCases: false, by: 'us' });
      await this.ways.forget(tx, shipment.id);
      await tx.tell('inbound', `IN-${shipment.no}`);
      return { taken: wanted.size, problems };
    });
  }

  /** Takes the goods of a purchase order or a build into the draft, beside what is there. */
  from(no: string, code: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const shipment = await this.draft(tx, no);
      const number = Number(code.slice(3));
      const goods = code.startsWith('PO')
        ? await goodsOfPurchase(tx, number)
        : await goodsOfBuild(tx, number);
      if (goods.length === 0)
        throw new NotHere(`Goods of ${code}`, 'Check its number under Receiving or Kits.');
      for (const { sku, units } of goods) {
        const product = await this.productOf(tx, sku);
        const known = await tx.of(InboundLine).findOneBy({ shipmentId: shipment.id, productId: product.id });
        await this.put(tx, shipment, product, {
          units: units + (known?.units ?? 0),
          inCases: false,
          by: known?.preparedBy ?? 'us',
        });
      }
      await this.ways.forget(tx, shipment.id);
      await tell(tx, shipment.id, `The goods of ${code} go along.`);
      await tx.tell('inbound', `IN-${shipment.no}`);
    });
  }

  /** Asks the network which code it will scan for each product, and its category. */
  async askCodes(no: string, doer: Doer): Promise<void> {
    const loaded = await this.loading.load(this.db, no);
    const { shipment, lines } = loaded;
    if (lines.length === 0) throw new Forbidden('The shipment has no goods yet.', 'Say what is to go first.');
    const answer = await this.centers.codes(
      shipment.network,
      lines.map(l => l.product.sku),
    );
    if (answer.kind !== 'answered') throw new Busy(answer.why, 'Try again in a minute.');
    await this.db.tx(doer, async tx => {
      const now = await lockShipment(tx, no);
      await mustBeAsLoaded(tx, now, loaded);
      for (const { product } of lines) {
        const told = answer.value.rows.find(r => r.code === product.sku);
        const scans = told?.scans ?? null;
        const known = (await tx.of(InboundLine).findOneBy({ shipmentId: now.id, productId: product.id }))!;
        // Another code than before is confirmed anew.
        const kept = known.askedAt !== null && known.scans === scans;
        await tx.of(InboundLine).update(known.id, {
          scans,
          category: told?.category ?? null,
          askedAt: tx.at,
          ...(!kept && { confirmed: null, confirmedAt: null }),
        });
      }
      await tx.tell('inbound', `IN-${now.no}`);
    });
  }

  /** One of the goods was scanned: it is the product whose code here or there that is. */
  scan(no: string, text: string, doer: Doer): Promise<InboundScanned> {
    return this.db.tx(doer, async tx => {
      const shipment = await lockShipment(tx, no);
      const scanned = canonicalCode(text);
      const lines = await tx.of(InboundLine).findBy({ shipmentId: shipment.id });
      const products = await this.catalog.products(
        tx,
        lines.map(l => l.productId),
      );
      const is = (l: InboundLine) =>
        (l.scans !== null && canonicalCode(l.scans) === scanned) ||
        products.get(l.productId)!.codes.some(c => canonicalCode(c.code) === scanned);
      const line = lines.find(is);
      if (!line)
        return { confirmed: false, says: `Nothing of ${shipment.name} has the code ${quoted(text.trim())}.` };
      if (!line.askedAt)
        return { confirmed: false, says: 'The network was not asked for its codes yet. Ask it first.' };
      const { name, codes } = products.get(line.productId)!;
      const { confirmed, says } = scanForCode(scanned, codes, line.scans);
      if (confirmed) await tx.of(InboundLine).update(line.id, { confirmed: scanned, confirmedAt: tx.at });
      await tx.tell('inbound', `IN-${shipment.no}`);
      return { confirmed, says: says || `${name} carries the code that they will scan.` };
    });
  }

  private async draft(tx: Tx, no: string): Promise<InboundShipment> {
    const shipment = await lockShipment(tx, no);
    mustBeDraft(shipment, await tx.of(InboundPart).findBy({ shipmentId: shipment.id }));
    return shipment;
  }

  private async productOf(tx: Tx, code: string): Promise<Product> {
    const product = await this.findProduct(tx, code);
    if (!product) throw new NotHere(`The product ${quoted(code)}`, 'Check its SKU, or scan one of it.');
    if (product.kind === 'bundle')
      throw new Forbidden(
        `${product.name} is a bundle, which has no stock of its own.`,
        'Send its parts, or build it as a kit first.',
      );
    return product;
  }

  private async findProduct(tx: Tx, code: string): Promise<Product | null> {
    const found = await this.catalog.byCode(tx, code);
    return found ? ((await this.catalog.products(tx, [found.id])).get(found.id) ?? null) : null;
  }
}
