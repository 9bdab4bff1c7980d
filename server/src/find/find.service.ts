import type { Found, FoundAll } from '@auk/contract';
import { canonicalCode, LONGEST_SCAN, quoted } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, NONE } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import { wordsFound } from '../orders/orders.module.js';

const LIKE_ROWS = 6;

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
    const number = (prefix: string) => new RegExp(`^${prefix}-(\\d{1,9})$`).exec(code)?.[1] ?? -1;
    const row = await this.db.one<{ kind: Found['kind']; code: string; name: string; id: string }>(
      `SELECT 'order' AS kind, CONCAT('OR-', no) AS code, CONCAT(channelNumber, ', ', buyer) AS name, id FROM orders WHERE no = ?
       UNION ALL SELECT 'list', CONCAT('PL-', no), CONCAT('Pick list PL-', no), id FROM pickList WHERE no = ?
       UNION ALL SELECT 'parcel', CONCAT('PA-', c.no), CONCAT('Parcel PA-', c.no), c.orderId FROM parcel c WHERE c.no = ?
       UNION ALL SELECT 'departure', CONCAT('DE-', no), CONCAT(carrierName, ' ', name), id FROM departure WHERE no = ?
       UNION ALL SELECT 'purchase', CONCAT('PO-', p.no), CONCAT('PO-', p.no, ', ', s.name), p.id FROM purchaseOrder p JOIN supplier s ON s.id = p.supplierId WHERE p.no = ?
       UNION ALL SELECT 'build', CONCAT('BU-', b.no), CONCAT('Build of ', p.name), b.id FROM build b JOIN product p ON p.id = b.productId WHERE b.no = ?
       UNION ALL SELECT 'parcel', CONCAT('PA-', c.no), CONCAT('Parcel PA-', c.no), c.orderId FROM purchase b JOIN parcel c ON c.id = b.parcelId WHERE b.tracking = ?
       UNION ALL SELECT IF(kind = 'tote', 'tote', 'place'), code, CONCAT('Place ', code), id FROM place WHERE code = ? AND kind <> 'parcel'
       UNION ALL SELECT 'product', p.sku, p.name, p.id FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ?
       UNION ALL SELECT 'product', sku, name, id FROM product WHERE sku = ?
       UNION ALL SELECT 'order', CONCAT('OR-', no), CONCAT(channelNumber, ', ', buyer), id FROM orders WHERE channelNumber = ? LIMIT 1`,
      [
        number('OR'),
        number('PL'),
        number('PA'),
        number('DE'),
        number('PO'),
        number('BU'),
        code,
        code,
        code,
        code,
        text.toUpperCase(),
      ],
    );
    return row && toFound(row);
  }

  private async words(text: string): Promise<Found[]> {
    const like = `%${escapeLike(text)}%`;
    const found = await wordsFound(this.db, text);
    const ids = 'ids' in found ? found.ids : [];
    const rows = await this.db.rows<{ kind: Found['kind']; code: string; name: string; id: string }>(
      `(SELECT 'order' AS kind, CONCAT('OR-', no) AS code, CONCAT(channelNumber, ', ', buyer) AS name, id FROM orders WHERE id IN (?) ORDER BY no DESC LIMIT ${LIKE_ROWS})
       UNION ALL (SELECT 'product', sku, name, id FROM product WHERE name LIKE ? OR sku LIKE ? ORDER BY sku LIMIT ${LIKE_ROWS})`,
      [[...ids, NONE], like, like],
    );
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
  }[r.kind];
  return { ...r, path };
}
