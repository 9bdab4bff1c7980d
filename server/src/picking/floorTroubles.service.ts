import type { MixUpRow, ScanIn, FloorTroubles as Troubles } from '@auk/contract';
import {
  type Answer,
  group,
  type PickState,
  type PickStop,
  parseScan,
  proposeMove,
  type ShelfPlace,
  walkBetween,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, NONE, newId, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { FloorTrouble } from './floorTrouble.entity.js';
import { byHandSince, emptyShelves, mixUpsSince, productBySku, shelvesOf } from './floorTroubles.queries.js';

const DAYS = 30;
const MOST = 50;
const METRE = 10_000;
/** Codes hold no dates here, so the century of one does not matter. */
const ANY_YEAR = 2000;

/** What goes wrong at the shelves: which products are taken for each other, and which labels cannot be read. */
@Injectable()
export class FloorTroubles {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  /** A product was scanned where another was to be taken. */
  async mixUp(tx: Tx, stop: PickStop, scannedSku: string): Promise<void> {
    const scanned = await productBySku(tx, scannedSku);
    if (!scanned) return;
    await this.note(tx, {
      kind: 'mix-up',
      wantedId: stop.product.id,
      scannedId: scanned.id,
      placeId: stop.placeId,
    });
  }

  /** A code was typed or pressed, and taken: its label is missing or cannot be read. */
  async byHand(tx: Tx, scan: ScanIn, answer: Answer, before: PickState): Promise<void> {
    if (scan.by === undefined || answer.kind === 'refused' || !isCode(scan.text)) return;
    const said = scan.text.trim().toUpperCase().slice(0, 60);
    const at = before.stops.find(s => s.placeCode === said) ?? before.stops[before.at]!;
    const product = at.placeCode === said ? null : at.product.id;
    await this.note(tx, { kind: 'by hand', wantedId: product, placeId: at.placeId, said });
  }

  private async note(tx: Tx, what: Partial<FloorTrouble>): Promise<void> {
    await tx.of(FloorTrouble).insert({ id: newId(), at: tx.at, personId: tx.personId, ...what });
  }

  async list(): Promise<Troubles> {
    const [pairs, byHand, layout, empty] = await Promise.all([
      mixUpsSince(this.db, DAYS, MOST),
      byHandSince(this.db, DAYS, MOST),
      this.house.layout(this.db),
      emptyShelves(this.db),
    ]);
    const shelves = group(
      await shelvesOf(this.db, [...pairs.flatMap(p => [p.wantedId, p.scannedId]), NONE]),
      s => s.productId,
    );
    const spots = (rows: readonly Omit<Shelf, 'productId'>[]): ShelfPlace[] =>
      rows.flatMap(({ code, aisle, along, zone }) =>
        aisle === null || along === null || !layout.aisles[aisle]
          ? []
          : [{ code, spot: { aisle, along }, area: zone }],
      );
    const mixUps = pairs.map((p): MixUpRow => {
      const [wanted, scanned] = [shelves.get(p.wantedId) ?? [], shelves.get(p.scannedId) ?? []];
      const [one, other] = [spots(wanted)[0], spots(scanned)[0]];
      const move = one && other ? proposeMove(layout, other, one, spots(empty)) : null;
      return {
        wanted: { sku: p.wantedSku, name: p.wantedName, places: wanted.map(s => s.code) },
        scanned: { sku: p.scannedSku, name: p.scannedName, places: scanned.map(s => s.code) },
        times: p.times,
        last: p.last.toISOString(),
        metres: one && other ? Math.round(walkBetween(layout, one.spot, other.spot) / METRE) : null,
        move: move && {
          sku: p.scannedSku,
          from: other!.code,
          to: move.to,
          metres: Math.round(move.distance / METRE),
        },
      };
    });
    return { days: DAYS, mixUps, byHand: byHand.map(r => ({ ...r, last: r.last.toISOString() })) };
  }
}

type Shelf = Awaited<ReturnType<typeof shelvesOf>>[number];

/** Whether a text is the code of a place or of goods: neither a command nor a number. */
export function isCode(text: string): boolean {
  const parsed = parseScan(text, ANY_YEAR);
  return parsed.ok && !['command', 'quantity', 'weight'].includes(parsed.value.type);
}
