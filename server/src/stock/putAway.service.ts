import { proposePutAway } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Sql } from '../database/db.js';
import { roomFor } from './putAway.queries.js';

/** Proposes where goods are put away. */
@Injectable()
export class PutAway {
  async propose(
    sql: Sql,
    productId: string,
    quantity: number,
  ): Promise<{ code: string; why: string } | null> {
    const rows = await roomFor(sql, productId);
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
