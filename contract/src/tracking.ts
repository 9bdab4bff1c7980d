import { TRACK_KINDS, TROUBLES } from '@auk/core';
import { z } from 'zod';

export const TroubleView = z.object({ trouble: z.enum(TROUBLES), says: z.string() });

/** Where a parcel that left stands. */
export const TrackView = z.object({
  state: z.enum(TRACK_KINDS).nullable(),
  says: z.string(),
  since: z.string().nullable(),
  /** The day on which its carrier means to deliver it now. */
  expected: z.string().nullable(),
  trouble: TroubleView.nullable(),
  events: z.array(
    z.object({ at: z.string(), kind: z.enum(TRACK_KINDS), says: z.string(), place: z.string() }),
  ),
  /** Why its carrier could not be asked. */
  why: z.string().nullable(),
});
export type TrackView = z.infer<typeof TrackView>;
