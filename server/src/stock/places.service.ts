import type { Page, PlaceIn, PlaceQuery, PlaceRow } from '@auk/contract';
import { fitsCode128, lettersOf, OWN_PREFIX, parseScan, quoted } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import { Db, type Doer, isDuplicate, newId, type Sql, Stale, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden } from '../http/problem.js';
import { Place } from './place.entity.js';
import {
  freeTotesOf,
  lockFreeTotes,
  lockPlace,
  placesFound,
  productBearing,
  setPlace,
  standListAt,
} from './places.queries.js';

/** Where the first bay begins behind the front cross-aisle, in tenths of a millimetre; as the demo's house has it. */
const FIRST_BAY = 10_000;
const BAY = 12_000;

/** Where a place stands that has no coordinates: behind all others, by its code. */
export const LAST_ON_THE_WALK = 999_999_999;

/** What a code tells where a house calls its places by aisle, bay, level and bin: A-07-2-B is aisle A, bay 7, level 2, bin B. Null for other codes. */
function partsOfCode(code: string): { aisle: string; bay: number; level: number; bin: string | null } | null {
  const m = /^([A-Z]{1,2})-(\d{2})-(\d{1,2})(?:-([A-Z0-9]{1,2}))?$/.exec(code);
  return m && { aisle: m[1]!, bay: Number(m[2]), level: Number(m[3]), bin: m[4] ?? null };
}

/** Codes of places hold no dates, so the century of one does not matter. */
const ANY_YEAR = 2000;

const SPECIAL = [
  ['DOCK-1', 'dock'],
  ['STAGE-1', 'staging'],
  ['BE-1', 'bench'],
  ['QUARANTINE', 'quarantine'],
  ['MADE', 'made'],
  ['MISSING', 'missing'],
  ['GONE', 'gone'],
  ['OUTSIDE', 'outside'],
] as const;

/** Places of the house: what they are for, how much they hold, and where they stand on the walk. */
@Injectable()
export class Places {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  async list(q: PlaceQuery): Promise<Page<PlaceRow>> {
    const rows = await placesFound(this.db, q, q.size + 1);
    const page = rows
      .slice(0, q.size)
      .map(r => ({ ...r, aisle: r.bay === null ? null : lettersOf(r.aisle!) }));
    return { rows: page, next: rows.length > q.size ? page.at(-1)!.code : null };
  }

  save(input: PlaceIn, doer: Doer): Promise<'new' | 'changed' | 'same'> {
    return this.db.tx(doer, tx => this.put(tx, input));
  }

  /** Makes a place or changes what it is for. What kind a place is decides whether its goods are promised, so only kinds alike may change into each other. */
  async put(tx: Tx, input: PlaceIn): Promise<'new' | 'changed' | 'same'> {
    const known = await lockPlace(tx, input.code);
    const refusal = await this.refusal(tx, input, known);
    if (refusal) throw new Forbidden(refusal, 'Correct it and try again.');
    if (known) {
      const same =
        known.kind === input.kind && known.zone === input.zone && known.capacity === input.capacity;
      if (!same) await setPlace(tx, input.kind, input.zone, input.capacity, known.id);
      return same ? 'same' : 'changed';
    }
    const house = await this.house.warehouse(tx);
    const parts = await this.partsIn(tx, input);
    await tx.insert(Place, [
      {
        id: newId(),
        warehouseId: house.id,
        code: input.code,
        kind: input.kind,
        zone: input.zone,
        capacity: input.capacity,
        aisle: parts?.aisle ?? (input.kind === 'dock' ? 0 : null),
        along: parts ? FIRST_BAY + (parts.bay - 1) * BAY + BAY / 2 : input.kind === 'dock' ? 0 : null,
        bay: parts?.bay ?? null,
        level: parts?.level ?? null,
        bin: parts?.bin ?? null,
        side: parts ? (parts.bay % 2 === 1 ? 'left' : 'right') : null,
        walk: parts
          ? parts.aisle * 10_000 + parts.bay * 100 + parts.level
          : onShelf(input.kind)
            ? LAST_ON_THE_WALK
            : 0,
        mark: null,
      },
    ]);
    return 'new';
  }

  /** Gives each order its number of free totes, the first by code; fewer in all when there are not enough. */
  async giveTotes(tx: Tx, wanted: ReadonlyMap<string, number>): Promise<Map<string, string[]>> {
    const each = [...wanted].flatMap(([orderId, n]) => new Array<string>(n).fill(orderId));
    const totes = await lockFreeTotes(tx, each.length);
    const given = new Map<string, string[]>();
    for (const [i, tote] of totes.entries()) {
      const orderId = each[i]!;
      given.set(orderId, [...(given.get(orderId) ?? []), tote.id]);
      await tx.of(Place).update(tote.id, { busyWith: orderId });
    }
    return given;
  }

  /** The totes of a list, and what carries it, stand at a staging place. */
  async standAt(tx: Tx, listId: string, code: string): Promise<void> {
    await standListAt(tx, listId, code, tx.at);
  }

  /** The totes of an order stand at no staging place any more: a bench has taken them. */
  async takeAway(tx: Tx, orderId: string): Promise<void> {
    await tx.of(Place).update({ kind: In(['tote', 'cell']), busyWith: orderId }, NOWHERE);
  }

  /** A trolley or tote is taken for a list: it stands at no staging place any more. */
  async setOff(tx: Tx, id: string): Promise<void> {
    await tx.of(Place).update(id, NOWHERE);
  }

  /** A free tote takes over the order of another one, which is free then. */
  async changeTote(tx: Tx, from: string, to: string): Promise<void> {
    const { busyWith } = await tx.of(Place).findOneByOrFail({ id: from });
    await tx.of(Place).update(to, { busyWith });
    await tx.of(Place).update(from, { busyWith: null, ...NOWHERE });
  }

  /** Totes of a list whose pieces were all missing are free again. */
  async freeEmptyTotes(tx: Tx, listId: string): Promise<void> {
    await freeTotesOf(tx, listId);
  }

  /** Makes the place that a parcel is: what is packed lies in it. */
  async makeForParcel(tx: Tx, warehouseId: string, parcelId: string): Promise<string> {
    const id = newId();
    await tx.insert(Place, [{ id, warehouseId, code: `P-${parcelId.slice(-12)}`, kind: 'parcel' }]);
    return id;
  }

  /** Makes the place where goods lie while they are on their way to a center, named by their shipment. */
  async makeAway(tx: Tx, warehouseId: string, code: string): Promise<string> {
    const id = newId();
    await tx.insert(Place, [{ id, warehouseId, code, kind: 'away' }]);
    return id;
  }

  /** The place of what lies at a center; it is made when it is first needed. */
  async centerPlace(
    tx: Tx,
    warehouseId: string,
    { network, center }: { network: string; center: string },
  ): Promise<string> {
    const code = `${network}, ${center}`.toUpperCase();
    const known = await tx.of(Place).findOneBy({ warehouseId, code });
    if (known) return known.id;
    const id = newId();
    await tx.insert(Place, [{ id, warehouseId, code, kind: 'center' }]).catch((error: unknown) => {
      // Another count has just made it: it is looked up again.
      throw isDuplicate(error) ? new Stale(`${code} was made meanwhile.`) : error;
    });
    return id;
  }

  /** The totes and cells of an order are free again, and stand nowhere any more. */
  async freeTotes(tx: Tx, orderId: string): Promise<void> {
    await tx
      .of(Place)
      .update({ kind: In(['tote', 'cell']), busyWith: orderId }, { busyWith: null, ...NOWHERE });
  }

  /** Makes the places that every house has one of, and a first bench. */
  async makeSpecial(tx: Tx, warehouseId: string): Promise<void> {
    await tx.insert(
      Place,
      SPECIAL.map(([code, kind]) => ({ id: newId(), warehouseId, code, kind })),
    );
  }

  /** Coordinates of a place on the shelves, as far as its code tells them and the house's layout has them. */
  private async partsIn(
    sql: Sql,
    input: PlaceIn,
  ): Promise<{ aisle: number; bay: number; level: number; bin: string | null } | null> {
    const parts = onShelf(input.kind) ? partsOfCode(input.code) : null;
    if (!parts) return null;
    const { aisles } = await this.house.layout(sql);
    const aisle = aisles.findIndex(a => a.code === parts.aisle);
    const reach = aisle === -1 ? 0 : aisles[aisle]!.to - aisles[aisle]!.from;
    return FIRST_BAY + parts.bay * BAY <= reach ? { ...parts, aisle } : null;
  }

  /** Why a place cannot be so, or null. */
  async refusal(sql: Sql, input: PlaceIn, known: { kind: string } | null): Promise<string | null> {
    if (known && !['bin', 'reserve', 'dock', 'staging', 'bench', 'quarantine'].includes(known.kind))
      return `${input.code} is the code of a ${known.kind} already.`;
    if (known && known.kind !== input.kind && !(onShelf(input.kind) && onShelf(known.kind)))
      return `${input.code} is a ${known.kind} place and stays one; only pick faces and reserve places change into each other.`;
    return known ? null : this.elsewhere(sql, input.code);
  }

  /** What a code means already, so that no place may bear it; null when it is free. */
  private async elsewhere(sql: Sql, code: string): Promise<string | null> {
    if (!fitsCode128(code)) return `${quoted(code)} cannot be a barcode.`;
    const parsed = parseScan(code, ANY_YEAR);
    if (!parsed.ok) return parsed.problem;
    const { type } = parsed.value;
    if (type === 'own' || (/^[A-Z]{2}-/.test(code) && code.slice(0, 2) in OWN_PREFIX))
      return `${code} begins like another kind of code of the house.`;
    if (type !== 'text') return `${code} means something already: it is read as a ${type}.`;
    const owner = await productBearing(sql, code);
    return owner ? `${code} is a code of ${owner.name} (${owner.sku}).` : null;
  }
}

/** A tote or trolley that stands at no staging place. */
const NOWHERE = { standsAtId: null, stoodSince: null };

const onShelf = (kind: string): boolean => kind === 'bin' || kind === 'reserve';
