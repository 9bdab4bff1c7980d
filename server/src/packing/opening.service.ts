import {
  type BenchBox,
  type Box,
  oneBox,
  openPack,
  type PackLine,
  type PackNews,
  type PackState,
  type Piece,
  type Proposing,
  packBegun,
  proposeBoxes,
  type ScanProduct,
  type Size,
  type UnitWants,
  whatChanged,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Benches } from '../benches/benches.module.js';
import { Measures } from '../catalog/catalog.module.js';
import type { Sql } from '../database/db.js';
import { Boxes, boxesNamed, CatalogService, type Product, pieceOf } from '../products/products.module.js';
import { wantedFor } from '../records/records.module.js';
import { boxWithLabel, linesToPack, packerNotes } from './packing.queries.js';
import { PackPlans, within } from './packPlans.service.js';

/** What a session at the bench is opened with: what is to pack, what is asked of it, and the boxes that are proposed. */
@Injectable()
export class Opening {
  constructor(
    private readonly catalog: CatalogService,
    private readonly kinds: Boxes,
    private readonly benches: Benches,
    private readonly measures: Measures,
    private readonly plans: PackPlans,
  ) {}

  async state(sql: Sql, order: { id: string; no: number }, device: string): Promise<PackState> {
    const { boxes, lines, proposed, planned, choices: house } = await this.plan(sql, order.id);
    const choices = { ...house, ...(await this.benches.choices(sql, device)) };
    const notes = await packerNotes(sql, order.id);
    return openPack({
      orderNo: `OR-${order.no}`,
      lines,
      boxes: boxes.map(toBenchBox),
      proposed,
      ...(planned && { planned }),
      notes: notes.filter(n => n.confirm).map(({ text, word }) => ({ text, word })),
      choices,
    });
  }

  /** What an order wants otherwise than an open session knows, and other boxes while nothing is in; null when nothing changed. */
  async changes(
    sql: Sql,
    orderId: string,
    state: PackState,
  ): Promise<Extract<PackNews, { kind: 'lines' }> | null> {
    const { lines } = await this.found(sql, orderId);
    const says = whatChanged(state, lines);
    // What is in stays in the boxes that were proposed for it.
    const now = packBegun(state) ? state.proposed : (await this.plan(sql, orderId)).proposed;
    const proposed = now.join() === state.proposed.join() ? undefined : now;
    if (proposed) says.push(`the ${proposed.length > 1 ? 'boxes' : 'box'} proposed`);
    return says.length === 0 ? null : { kind: 'lines', lines, says, ...(proposed && { proposed }) };
  }

  /** The lines in the order in which they go in, and the boxes that are proposed for them. */
  private async plan(sql: Sql, orderId: string) {
    const boxes = await this.catalog.boxes(sql);
    const { lines: found, preferred } = await this.found(sql, orderId);
    const { parcelCostMinor, ...choices } = await this.kinds.choices(sql);
    const plan = await this.plans.of(sql, orderId);
    if (plan)
      return {
        choices,
        lines: found,
        boxes: within(boxes, plan.mostMg),
        proposed: plan.boxes.map(b => b.code),
        planned: plan.boxes.map(b => byLine(b.holds, found)),
      };
    // What has its label already goes into the box that it was bought for.
    const labelled = await boxWithLabel(sql, orderId);
    const wanted = labelled ? [labelled.boxCode] : (await wantedFor(sql, orderId)).boxes;
    const planned = asPlanned(boxes, found, { ...choices, parcelCostMinor, preferred, wanted });
    return { boxes, choices, planned: undefined, ...planned };
  }

  /** The lines that are here, and the boxes that their products prefer. */
  private async found(sql: Sql, orderId: string): Promise<{ lines: PackLine[]; preferred: string[] }> {
    const rows = await linesToPack(sql, orderId);
    const all = await this.catalog.withParts(
      sql,
      rows.flatMap(r => [r.productId, r.lineProductId]),
    );
    const unsized = rows.map(r => r.productId).filter(id => !all.get(id)!.size);
    const measured = unsized.length > 0 ? await this.measures.sizes(sql, unsized) : new Map<string, Size>();
    const preferred = rows.map(r => all.get(r.productId)!);
    return { lines: rows.map(r => toLine(r, all, measured)), preferred: boxesNamed(preferred) };
  }
}

/** The boxes for an order, one for each parcel, and the lines in the order in which they go in; as they came while a size is not known. */
function asPlanned(
  boxes: readonly Box[],
  lines: PackLine[],
  by: Proposing,
): { lines: PackLine[]; proposed: string[] } {
  const known = by.wanted.filter(w => boxes.some(b => b.code === w));
  const pieces: Piece[] = [];
  for (const l of lines) {
    const own = oneBox(boxes, by.preferred, by.wanted);
    if (!l.piece?.size) return { lines, proposed: own ? [own.code] : [] };
    pieces.push({
      ...l.piece,
      id: l.id,
      size: l.piece.size,
      quantity: l.wanted,
      ...(l.apart && { apart: l.apart }),
    });
  }
  const parcels = proposeBoxes(boxes, pieces, by);
  const order = parcels.flatMap(p => p.placed.map(q => q.piece.id));
  const at = (l: PackLine) => (order.includes(l.id) ? order.indexOf(l.id) : order.length);
  return {
    // What may be left out comes last.
    lines: [...lines].sort((a, b) => Number(a.optional) - Number(b.optional) || at(a) - at(b)),
    proposed: known.length > 1 ? known : parcels.map(p => p.box.code),
  };
}

/** What lies in a box, by the lines of the order; an order of the house's own has one line for a product. */
const byLine = (
  holds: Readonly<Record<string, number>>,
  lines: readonly PackLine[],
): Record<string, number> =>
  Object.fromEntries(lines.flatMap(l => (holds[l.product.sku] ? [[l.id, holds[l.product.sku]!]] : [])));

const toBenchBox = ({ code, name, tareMg, limitMg, inner, kind }: Box): BenchBox => ({
  code,
  name,
  tareMg,
  limitMg,
  inner,
  kind: kind ?? 'box',
});

const toScanProduct = ({ id, sku, name, codes, picture, hint }: Product): ScanProduct => ({
  id,
  sku,
  name,
  codes,
  picture,
  hint,
});

function toLine(
  r: Awaited<ReturnType<typeof linesToPack>>[number],
  all: Map<string, Product>,
  measured: ReadonlyMap<string, Size>,
): PackLine {
  const product = all.get(r.productId)!;
  const sold = all.get(r.lineProductId)!;
  const kitParts =
    product.kind === 'kit'
      ? product.recipe.parts.map(p => ({
          product: toScanProduct(all.get(p.productId)!),
          perKit: p.quantity,
          scanned: 0,
        }))
      : [];
  const bundle =
    sold.kind === 'bundle'
      ? {
          id: r.lineId,
          name: sold.name,
          codes: sold.codes.map(c => c.code),
          each: Math.max(1, Math.round(r.quantity / r.lineQuantity)),
        }
      : null;
  return {
    id: r.id,
    product: toScanProduct(product),
    wanted: r.quantity,
    packed: 0,
    kitParts,
    bundle,
    piece: pieceOf(product, measured.get(r.productId) ?? null),
    wants: toWants(product.facts, r),
    ...(r.apart && { apart: r.lineKey }),
    optional: !!r.optional,
    leftOut: 0,
  };
}

/** What is asked of each unit: by the product's facts, less what picking told already. */
function toWants(
  facts: Product['facts'],
  { lots, expires }: { lots: string | null; expires: number },
): UnitWants {
  const text = (key: string) => (typeof facts[key] === 'string' ? (facts[key] as string).trim() : '');
  return {
    ...(text('warning') && { warning: text('warning') }),
    ...(facts.serials === true && { serial: text('serialForm') }),
    ...(facts.lots === true && { lot: lots?.split('\n') ?? [] }),
    ...(facts.expiry === true && !expires && { expiry: true as const }),
    ...(text('question') && { question: text('question') }),
  };
}
