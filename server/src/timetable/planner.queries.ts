import type { CarrierRow } from '../carriers/carrier.entity.js';
import type { Sql } from '../database/db.js';
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
    "SELECT d.id, d.carrier, d.cutOff, c.planUpToMg FROM departure d LEFT JOIN carrier c ON c.code = d.carrier AND c.inUse WHERE d.state = 'open' AND NOT d.freight AND d.cutOff > ? ORDER BY d.cutOff, d.id LIMIT 100",
    [now],
  );
}
