import type { MakeWall, WallView } from '@auk/contract';
import { group, MOST_WALLS, nextWall, wallCells } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import { Db, type Doer, newId, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { Place } from './place.entity.js';
import {
  type CellRow,
  cellsOfWalls,
  everUsed,
  largestWall,
  lockCellFor,
  lockCells,
} from './walls.queries.js';

/** Put walls: rows and columns of cells in which heaps are sorted. */
@Injectable()
export class Walls {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  async list(sql: Sql = this.db): Promise<WallView[]> {
    const cells = await cellsOfWalls(sql, null);
    return [...group(cells, c => c.wall)].map(([wall, own]) => ({
      wall,
      columns: Math.max(...own.map(c => c.bay!)),
      cells: own.map(c => ({
        code: c.code,
        mark: c.mark!,
        order: c.orderNo === null ? null : `OR-${c.orderNo}`,
        units: c.units,
      })),
    }));
  }

  /** The cells of a wall in their order; none when there is no such wall. */
  cells(sql: Sql, wall: string): Promise<CellRow[]> {
    return cellsOfWalls(sql, wall);
  }

  /** How many cells the largest wall has; 0 in a house without one. */
  async largest(sql: Sql): Promise<number> {
    return (await largestWall(sql))?.n ?? 0;
  }

  /** Sets up a further wall; gives its letter. */
  make(input: MakeWall, doer: Doer): Promise<string> {
    return this.db.tx(doer, async tx => {
      const { id: warehouseId } = await this.house.warehouse(tx);
      const known = await lockCells(tx);
      const wall = nextWall(known.map(c => c.zone));
      if (wall === null)
        throw new Forbidden(
          `There are ${MOST_WALLS} put walls, as many as have letters.`,
          'Take one down that nobody uses.',
        );
      await tx.insert(
        Place,
        wallCells(wall, input.rows, input.columns).map(c => ({
          id: newId(),
          warehouseId,
          code: c.code,
          kind: 'cell' as const,
          mark: c.mark,
          zone: wall,
          level: c.row,
          bay: c.column,
        })),
      );
      await tx.tell('stock', 'walls');
      return wall;
    });
  }

  /** Takes a wall down through which no goods ever went. */
  remove(wall: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const own = (await lockCells(tx)).filter(c => c.zone === wall);
      if (own.length === 0) throw new NotHere(`The put wall ${wall}`);
      const ids = own.map(c => c.id);
      if (await everUsed(tx, ids))
        throw new Forbidden(
          `Goods went through wall ${wall}, and the ledger names its cells.`,
          'Let it stand; a wall that nobody uses is in nobody’s way.',
        );
      await tx.of(Place).delete({ id: In(ids) });
      await tx.tell('stock', 'walls');
    });
  }

  /** Makes sure that a cell is free for an order, or its own, and that it has no other. Two who sort at one wall wait for each other here. */
  async isFor(tx: Tx, cellId: string, orderId: string): Promise<boolean> {
    const cells = await lockCellFor(tx, cellId, orderId);
    return cells.every(c => (c.id === cellId ? c.busyWith === null || c.busyWith === orderId : false));
  }

  /** An order gets a cell, or leaves it when nothing of it lies there any more. */
  async give(tx: Tx, cellId: string, orderId: string | null): Promise<void> {
    await tx.of(Place).update(cellId, { busyWith: orderId });
  }
}
