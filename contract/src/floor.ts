import { z } from 'zod';

/** A way code: how an aisle or cross aisle is called. */
const WayCode = z.string().trim().toUpperCase().min(1).max(20);
/** Metres on the floor, from its left front corner. */
const Metres = z.number().min(-2_000).max(2_000);

export const AisleIn = z.object({ code: WayCode, x: Metres, from: Metres, to: Metres });
export const CrossAisleIn = z.object({ code: WayCode, y: Metres, from: Metres, to: Metres });
/** A spot: how far along which way. */
export const SpotIn = z.object({ way: WayCode, along: z.number().min(0).max(4_000) });

/** The floor of the house: its ways, and where walks begin and end. All in metres. */
export const FloorIn = z.object({
  aisles: z.array(AisleIn).min(1).max(400),
  crossAisles: z.array(CrossAisleIn).max(60),
  start: SpotIn,
  end: SpotIn,
});
export type FloorIn = z.infer<typeof FloorIn>;

/** The floor as it is, with the places that stand nowhere on it: they are walked last. */
export const FloorView = FloorIn.extend(
  z.object({
    places: z.number(),
    unplaced: z.number(),
    unplacedCodes: z.array(z.string()),
    /** Walks on it are the shortest there are; else they are improved step by step. */
    exact: z.boolean(),
  }).shape,
);
export type FloorView = z.infer<typeof FloorView>;
