import { type PutAwayPlace, proposePutAway } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Sql } from '../database/db.js';

/** Proposes where goods are put away. */
@Injectable()
export class PutAway {
  async propose(
    sql: Sql,
    productId: string,
    quantity: number,
  ): Promise<{ code: string; why: string } | null> {
    const rows = await sql.rows<
      Omit<PutAwayPlace, 'room' | 'holds' | 'empty'> & {
        capacity: number | null;
        units: number;
        mine: number;
      }
    >(
      `SELECT p.id AS placeId, p.code, p.kind, p.walk, p.capacity, CAST(COALESCE(SUM(b.onHand), 0) AS INT) AS units, CAST(COALESCE(SUM(IF(b.productId = ?, b.onHand, 0)), 0) AS INT) AS mine
       FROM place p LEFT JOIN stockBalance b ON b.placeId = p.id AND b.onHand > 0 WHERE p.kind IN ('bin', 'reserve') GROUP BY p.id HAVING units = 0 OR mine > 0`,
      [productId],
    );
    const found = proposePutAway(
      Math.max(1, quantity),
      rows.map(({ capacity, units, mine, ...p }) => ({
        ...p,
        room: capacity === null ? null : capacity - units,
        holds: mine > 0,
        empty: units === 0,
      })),
    );
    return found && { code: found.code, why: found.why };
  }
}
