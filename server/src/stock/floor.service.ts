import type { FloorIn, FloorView } from '@auk/contract';
import { type Layout, layoutProblems, onFloor, type Spot, spotOn, walksOf } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden } from '../http/problem.js';
import { Place } from './place.entity.js';
import { moveAisle, placedCount, settleAisles, standsAt, unplacedPlaces } from './places.queries.js';
import { Places } from './places.service.js';

const METRE = 10_000;
const NAMED = 20;
/** Places of one aisle are walked in steps of five centimetres; no aisle has ten thousand of them. */
const STEP = 500;
const STEPS = 10_000;

/** Kinds of places that stand somewhere on the floor. */
const STANDING = new Set(['bin', 'reserve', 'dock', 'staging', 'bench', 'quarantine']);

/** Where a place is to stand, by the code of its aisle; along it in tenths of a millimetre. */
export interface Standing {
  code: string;
  aisle: string;
  along: number;
  side: 'left' | 'right' | null;
  area: string | null;
}

/** The floor of the house: its aisles, where walks begin and end, and where places stand on it. */
@Injectable()
export class FloorService {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly places: Places,
  ) {}

  async view(): Promise<FloorView> {
    const layout = await this.house.layout(this.db);
    const [counts, unplaced] = await Promise.all([placedCount(this.db), unplacedPlaces(this.db, NAMED)]);
    const metres = (tenths: number) => tenths / METRE;
    const spot = (s: Spot) =>
      'aisle' in s
        ? { way: layout.aisles[s.aisle]!.code, along: metres(s.along) }
        : { way: layout.crossAisles[s.cross]!.code, along: metres(s.along) };
    const reach = <W extends { from: number; to: number }>(w: W) => ({
      from: metres(w.from),
      to: metres(w.to),
    });
    return {
      aisles: layout.aisles.map(a => ({ code: a.code, x: metres(a.x), ...reach(a) })),
      crossAisles: layout.crossAisles.map(c => ({ code: c.code, y: metres(c.y), ...reach(c) })),
      start: spot(layout.start),
      end: spot(layout.end),
      ...counts!,
      unplacedCodes: unplaced.map(p => p.code),
      exact: walksOf(layout).exact,
    };
  }

  /** Saves the floor as a person has drawn it. Refused with every reason why it could not be walked. */
  async save(input: FloorIn, doer: Doer): Promise<FloorView> {
    const tenths = (metres: number) => Math.round(metres * METRE);
    const reach = (w: { from: number; to: number }) => ({ from: tenths(w.from), to: tenths(w.to) });
    const ways = {
      aisles: input.aisles.map(a => ({ code: a.code, x: tenths(a.x), ...reach(a) })),
      crossAisles: input.crossAisles.map(c => ({ code: c.code, y: tenths(c.y), ...reach(c) })),
    };
    const layout: Layout = {
      ...ways,
      start: spotOn(ways, input.start.way, tenths(input.start.along)),
      end: spotOn(ways, input.end.way, tenths(input.end.along)),
    };
    await this.db.tx(doer, tx => this.lay(tx, layout));
    return this.view();
  }

  /** Lays another floor: places stay on the aisle of the same code, and those of an aisle that is gone stand nowhere. */
  async lay(tx: Tx, layout: Layout): Promise<void> {
    const [problem] = layoutProblems(layout);
    if (problem) throw new Forbidden(problem.says, problem.cure);
    const before = await this.house.lockedLayout(tx);
    for (const [from, aisle] of before.aisles.entries()) {
      const to = layout.aisles.findIndex(a => a.code === aisle.code);
      if (to !== from) await moveAisle(tx, to === -1 ? null : to, from);
    }
    await settleAisles(tx);
    await this.house.setLayout(tx, layout);
    await tx.tell('stock', 'floor');
  }

  /** Why a place cannot stand so on a floor, or null. */
  refusal(layout: Layout, at: Standing, kind: string | null): string | null {
    if (kind !== null && !STANDING.has(kind))
      return `${at.code} is the code of a ${kind}, which stands nowhere.`;
    const spot = spotOn(layout, at.aisle, at.along);
    if (!('aisle' in spot)) return `The floor has no aisle ${at.aisle}.`;
    const aisle = layout.aisles[spot.aisle]!;
    const long = (aisle.to - aisle.from) / METRE;
    return onFloor(layout, spot)
      ? null
      : `Aisle ${at.aisle} is ${long} m long, and the place would stand at ${at.along / METRE} m.`;
  }

  /** Where a place stands now, for comparing; null when there is no such place. */
  async standing(
    sql: Sql,
    code: string,
  ): Promise<
    (Omit<Standing, 'aisle' | 'along'> & { kind: string; aisle: string | null; along: number | null }) | null
  > {
    const found = await standsAt(sql, code);
    if (!found) return null;
    const { aisles } = await this.house.layout(sql);
    const side = found.side === 'left' || found.side === 'right' ? found.side : null;
    return {
      code,
      kind: found.kind,
      aisle: found.aisle === null ? null : (aisles[found.aisle]?.code ?? null),
      along: found.along,
      side,
      area: found.zone,
    };
  }

  /** Puts a place where it stands; makes it a pick face when it is new. */
  async place(tx: Tx, at: Standing): Promise<void> {
    const layout = await this.house.lockedLayout(tx);
    const known = await standsAt(tx, at.code);
    if (!known)
      await this.places.put(tx, { code: at.code, kind: 'bin', zone: at.area ?? '', capacity: null });
    const { id } = known ?? (await standsAt(tx, at.code))!;
    const aisle = layout.aisles.findIndex(a => a.code === at.aisle);
    await tx.of(Place).update(id, {
      aisle,
      along: at.along,
      side: at.side,
      walk: aisle * STEPS + Math.min(STEPS - 1, Math.floor(at.along / STEP)),
      ...(at.area !== null && { zone: at.area }),
    });
  }
}
