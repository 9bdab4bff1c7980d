import type { Found, FoundAll } from '@auk/contract';
import { canonicalCode, LONGEST_SCAN, quoted } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import { wordsFound } from '../orders/orders.module.js';
import { byOwnCode, byWords, FOUND_BY_NUMBER } from './find.queries.js';

/** The scan field: any code in the house, else words. */
@Injectable()
export class FindService {
  constructor(private readonly db: Db) {}

  async find(raw: string): Promise<FoundAll> {
    const text = raw.trim();
    if (text === '' || text.length > LONGEST_SCAN)
      return {
        exact: null,
        others: [],
        says:
          text === '' ? 'Nothing was typed.' : `That has ${text.length} characters; no code here is so long.`,
      };
    const exact = await this.exact(text);
    if (exact) return { exact, others: [], says: exact.name };
    const others = await this.words(text);
    return {
      exact: null,
      others,
      says: others.length
        ? `Nothing has exactly the code ${quoted(text)}; these are near.`
        : `Nothing here is called ${quoted(text)}. Check the code, or try part of a name.`,
    };
  }

  private async exact(text: string): Promise<Found | null> {
    const code = canonicalCode(text);
    const numbers = FOUND_BY_NUMBER.map(kind => new RegExp(`^${kind}-(\\d{1,9})$`).exec(code)?.[1] ?? -1);
    const row = await byOwnCode(this.db, numbers, code, text.toUpperCase());
    return row && toFound(row);
  }

  private async words(text: string): Promise<Found[]> {
    const like = `%${escapeLike(text)}%`;
    const found = await wordsFound(this.db, text);
    const ids = 'ids' in found ? found.ids : [];
    const rows = await byWords(this.db, ids, like);
    return rows.map(toFound);
  }
}

function toFound({ id, ...r }: { kind: Found['kind']; code: string; name: string; id: string }): Found {
  const path = {
    order: `/orders/${id}`,
    parcel: `/orders/${id}`,
    list: `/pick/${r.code}`,
    departure: `/departures/${r.code}`,
    product: `/products/${encodeURIComponent(r.code)}`,
    place: `/places/${r.code}`,
    tote: `/places/${r.code}`,
    purchase: `/receiving/${r.code}`,
    build: `/builds/${r.code}`,
    inbound: `/inbound/${r.code}`,
  }[r.kind];
  return { ...r, path };
}
