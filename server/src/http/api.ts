import { SetMetadata } from '@nestjs/common';
import type { ZodType } from 'zod';

/** What an endpoint is sent. */
export interface Shapes {
  body?: ZodType;
  query?: ZodType;
}

/** What an endpoint answers: a form of the contract, nothing, a file, or a stream of events. */
export type Answer = ZodType | 'nothing' | 'file' | 'events';

export const TAKES = 'auk:takes';
export const ANSWERS = 'auk:answers';

/** Says by which forms of the contract an endpoint reads what it is sent. */
export const Takes = (shapes: Shapes) => SetMetadata(TAKES, shapes);

/** Says what an endpoint answers. The documentation is made from it, and tests check every answer against it. */
export const Answers = (answer: Answer) => SetMetadata(ANSWERS, answer);
