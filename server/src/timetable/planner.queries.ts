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

export function openDepartures(sql: Sql, now: Date): Promise<Pick<Departure, 'id' | 'carrier' | 'cutOff'>[]> {
  return sql.rows(
    "SELECT id, carrier, cutOff FROM departure WHERE state = 'open' AND NOT freight AND cutOff > ? ORDER BY cutOff, id LIMIT 100",
    [now],
  );
}
