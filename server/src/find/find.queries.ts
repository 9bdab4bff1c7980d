import { type Found } from '@auk/contract';
import type { Product } from '../catalog/product.entity.js';
import type { Sql } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { Place } from '../stock/place.entity.js';
import type { Departure } from '../timetable/departure.entity.js';

export const LIKE_ROWS = 6;

/** Kinds of own codes that the scan field finds, in the order in which they are asked. */
export const FOUND_BY_NUMBER = ['OR', 'PL', 'PA', 'DE', 'PO', 'BU', 'IN'] as const;

/** What a code is: by the number of each kind of own code (or a number that nothing has), as a code of goods or places, or as an order's number. */
export function byOwnCode(
  sql: Sql,
  numbers: readonly (string | number)[],
  code: string,
  text: string,
): Promise<
  (Pick<Place, 'code'> & Pick<Departure, 'name'> & Pick<Order, 'id'> & { kind: Found['kind'] }) | null
> {
  return sql.one(
    `SELECT 'order' AS kind, CONCAT('OR-', no) AS code, CONCAT(channelNumber, ', ', buyer) AS name, id FROM orders WHERE no = ?
       UNION ALL SELECT 'list', CONCAT('PL-', no), CONCAT('Pick list PL-', no), id FROM pickList WHERE no = ?
       UNION ALL SELECT 'parcel', CONCAT('PA-', c.no), CONCAT('Parcel PA-', c.no), c.orderId FROM parcel c WHERE c.no = ?
       UNION ALL SELECT 'departure', CONCAT('DE-', no), CONCAT(carrierName, ' ', name), id FROM departure WHERE no = ?
       UNION ALL SELECT 'purchase', CONCAT('PO-', p.no), CONCAT('PO-', p.no, ', ', s.name), p.id FROM purchaseOrder p JOIN supplier s ON s.id = p.supplierId WHERE p.no = ?
       UNION ALL SELECT 'build', CONCAT('BU-', b.no), CONCAT('Build of ', p.name), b.id FROM build b JOIN product p ON p.id = b.productId WHERE b.no = ?
       UNION ALL SELECT 'inbound', CONCAT('IN-', no), CONCAT(name, ' to ', network), id FROM inboundShipment WHERE no = ?
       UNION ALL SELECT 'parcel', CONCAT('PA-', c.no), CONCAT('Parcel PA-', c.no), c.orderId FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.tracking = ?
       UNION ALL SELECT IF(kind = 'tote', 'tote', 'place'), code, CONCAT('Place ', code), id FROM place WHERE code = ? AND kind <> 'parcel'
       UNION ALL SELECT 'product', p.sku, p.name, p.id FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ?
       UNION ALL SELECT 'product', sku, name, id FROM product WHERE sku = ?
       UNION ALL SELECT 'order', CONCAT('OR-', no), CONCAT(channelNumber, ', ', buyer), id FROM orders WHERE channelNumber = ?
       UNION ALL SELECT 'order', CONCAT('OR-', o.no), CONCAT(p.name, ' ', ?, ' in order ', o.channelNumber), o.id FROM unitFact f JOIN orders o ON o.id = f.orderId JOIN product p ON p.id = f.productId WHERE f.serial = ? OR f.lot = ? LIMIT 1`,
    [...numbers, code, code, code, code, text, text, text, text],
  );
}

export function byWords(
  sql: Sql,
  ids: readonly string[],
  like: string,
): Promise<(Pick<Product, 'name'> & Pick<Order, 'id'> & { kind: Found['kind']; code: string })[]> {
  return sql.rows(
    `(SELECT 'order' AS kind, CONCAT('OR-', no) AS code, CONCAT(channelNumber, ', ', buyer) AS name, id FROM orders WHERE id IN (?) ORDER BY no DESC LIMIT ${LIKE_ROWS})
       UNION ALL (SELECT 'product', sku, name, id FROM product WHERE name LIKE ? OR sku LIKE ? ORDER BY sku LIMIT ${LIKE_ROWS})`,
    [[...ids, NONE], like, like],
  );
}
