import type { Answer } from '@auk/core';
import { z } from 'zod';
import { fromCore } from './common.js';

/** A device by the id that it made for itself. */
export const Device = z.string().min(1).max(60);

/** A scan as a device sends it. The same id again gets the same answer. */
export const ScanIn = z.object({
  id: z.uuid(),
  text: z.string().max(20_000),
  at: z.iso.datetime(),
  device: Device,
  count: z.number().int().min(0).max(2_000_000_000),
  /** How it came about, where a scanner did not read it: typed, or pressed on the glass. */
  by: z.enum(['typed', 'pressed']).optional(),
  /** Who made it, when it is sent under another sign-in than it was made. */
  maker: z.uuid().optional(),
});
export type ScanIn = z.infer<typeof ScanIn>;

/** The server's judgement: the answer and the state it leads to. `repeated` when the id was known already. */
export interface Judged<S> {
  answer: Answer;
  state: S;
  repeated: boolean;
}

/** What a reducer answered to a scan, in words. */
export const ScanAnswer = fromCore<Answer>();

/** The judgement of a scan in a session whose state has a form. */
export const judgedOf = <S extends z.ZodType>(state: S) =>
  z.object({ answer: ScanAnswer, state, repeated: z.boolean() });
