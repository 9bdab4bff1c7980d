import type { InboundStage } from '@auk/core';
import type { Sql } from '../database/db.js';

/** Goods in the place of a part that are not what left less what was counted (never more than left) and what was given up. */
export function onTheirWay(sql: Sql): Promise<{ where: string; stored: number; derived: number }[]> {
  return sql.rows(
    `SELECT x.where, x.stored, x.derived FROM (SELECT CONCAT('IN-', s.no, ' ', p.center, ' ', t.sku) AS \`where\`, COALESCE((SELECT SUM(b.onHand) FROM stockBalance b WHERE b.placeId = p.placeId AND b.productId = l.productId), 0) AS stored,
       g.gone - LEAST(g.gone, g.counted) - COALESCE((SELECT SUM(m.quantity) FROM stockMove m WHERE m.causeId = p.id AND m.productId = l.productId AND m.why = 'lost on the way'), 0) AS derived
     FROM inboundPart p JOIN inboundShipment s ON s.id = p.shipmentId JOIN inboundPartLine l ON l.partId = p.id JOIN product t ON t.id = l.productId
       JOIN (SELECT q.id, k.productId, COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.orderId = q.orderId AND a.productId = k.productId AND a.hold = 'departed'), 0) AS gone,
           COALESCE((SELECT SUM(c.units) FROM inboundCount c WHERE c.partId = q.id AND c.productId = k.productId), 0) AS counted FROM inboundPart q JOIN inboundPartLine k ON k.partId = q.id) g ON g.id = p.id AND g.productId = l.productId
     WHERE p.placeId IS NOT NULL) x WHERE x.stored <> x.derived LIMIT 50`,
  );
}

export function stagesOfParts(sql: Sql): Promise<{ no: string; stage: InboundStage; part: InboundStage }[]> {
  return sql.rows(
    "SELECT CONCAT('IN-', s.no) AS no, s.stage, p.stage AS part FROM inboundShipment s JOIN inboundPart p ON p.shipmentId = s.id ORDER BY s.no, p.seq",
  );
}
