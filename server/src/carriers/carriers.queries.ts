import type { Sql } from '../database/db.js';
import type { Timetable } from '../timetable/timetable.entity.js';

/** When each carrier collects by the week. */
export function collections(
  sql: Sql,
): Promise<(Pick<Timetable, 'id' | 'carrier' | 'name' | 'weekdays' | 'cutOff'> & { freight: number })[]> {
  return sql.rows(
    'SELECT id, carrier, name, weekdays, cutOff, freight FROM timetable ORDER BY carrier, cutOff, id',
  );
}
