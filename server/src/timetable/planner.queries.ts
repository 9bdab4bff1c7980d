import type { CarrierRow } from '../carriers/carrier.entity.js';
import type { CarrierClosed } from '../carriers/carrierClosed.entity.js';
import type { Sql, Tx } from '../database/db.js';
import type { Warehouse } from '../house/warehouse.entity.js';
import type { Departure } from './departure.entity.js';
import type { Timetable } from './timetable.entity.js';

export function timetables(
  sql: Sql,
): Promise<
  (Pick<Timetable, 'id' | 'warehouseId' | 'carrier' | 'carrierName' | 'name' | 'weekdays' | 'cutOff'> &
    Pick<Warehouse, 'zone'> & { services: string; freight: number })[]
> {
  return sql.rows(
    'SELECT t.id, t.warehouseId, t.carrier, t.carrierName, t.name, t.weekdays, t.cutOff, t.services, t.freight, w.zone FROM timetable t JOIN warehouse w ON w.id = t.warehouseId',
  );
}

/** Departures that are open, with up to which weight orders are planned with their carrier before a label is bought. */
export function openDepartures(
  sql: Sql,
  now: Date,
): Promise<(Pick<Departure, 'id' | 'carrier' | 'cutOff'> & Pick<CarrierRow, 'planUpToMg'>)[]> {
  return sql.rows(
    "SELECT d.id, d.carrier, d.cutOff, c.planUpToMg FROM departure d LEFT JOIN carrier c ON c.code = d.carrier AND c.inUse WHERE d.state = 'open' AND NOT d.freight AND d.cutOff > ? AND NOT EXISTS (SELECT 1 FROM carrierClosed x WHERE x.day = d.day) ORDER BY d.cutOff, d.id LIMIT 100",
    [now],
  );
}

/** Days on which no carrier collects. */
export function closedDays(sql: Sql): Promise<Pick<CarrierClosed, 'day'>[]> {
  return sql.rows('SELECT day FROM carrierClosed');
}

/** Departures of a collection that are still to come. */
export function departuresToCome(
  tx: Tx,
  timetableId: string,
): Promise<Pick<Departure, 'id' | 'day' | 'cutOff'>[]> {
  return tx.rows(
    "SELECT id, day, cutOff FROM departure WHERE timetableId = ? AND state = 'open' AND cutOff > ? FOR UPDATE",
    [timetableId, tx.at],
  );
}

/** Takes away departures to come that nothing is planned for: of one collection, or of days on which no carrier comes. */
export function removeUnused(tx: Tx, of: { timetableId: string } | 'days off'): Promise<number> {
  const which = of === 'days off' ? 'd.day IN (SELECT day FROM carrierClosed)' : 'd.timetableId = ?';
  return tx.run(
    `DELETE d FROM departure d WHERE ${which} AND d.timetableId IS NOT NULL AND d.state = 'open' AND d.cutOff > ? AND NOT EXISTS (SELECT 1 FROM orders o WHERE o.departureId = d.id)
     AND NOT EXISTS (SELECT 1 FROM parcel c WHERE c.departureId = d.id) AND NOT EXISTS (SELECT 1 FROM shipment s WHERE s.departureId = d.id)
     AND NOT EXISTS (SELECT 1 FROM scanSession x WHERE x.departureId = d.id)`,
    of === 'days off' ? [tx.at] : [of.timetableId, tx.at],
  );
}
