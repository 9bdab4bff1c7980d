import { businessDaysUntil, type TrackKind, type Trouble, troubleOf } from '@auk/core';
import { DateTime } from 'luxon';
import type { Days } from '../house/house.module.js';

/** What is kept of a parcel that left. */
export interface WayKept {
  state: TrackKind | null;
  says: string;
  since: Date | null;
  leftAt: Date;
  arrives: string;
  promised: string | null;
}

/** What is wrong with a parcel on its way by now; days are the warehouse's, business days those of the carriers. */
export function troubleOnTheWay(
  way: WayKept,
  days: Days,
  closed: ReadonlySet<string>,
): { trouble: Trouble; says: string } | null {
  const heard = way.since && way.since > way.leftAt ? way.since : way.leftAt;
  const day = DateTime.fromJSDate(heard, { zone: days.zone }).toISODate()!;
  return troubleOf({
    state: way.state && { at: way.since!.toISOString(), kind: way.state, says: way.says },
    arrives: way.arrives,
    promised: way.promised,
    quietDays: businessDaysUntil(day, days.today, { closed }),
    today: days.today,
  });
}
