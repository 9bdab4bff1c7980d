import { MOMENTS, type Moment } from '@auk/core';
import { Entity, Index } from 'typeorm';
import { At, Code, Int, Json, OneOf, Ref } from '../database/columns.js';

/** What the book decided for an order at a moment, with all that it was decided by. */
@Entity('ruleOutcome')
@Index(['bookNo'])
export class RuleOutcome {
  @Ref('Order', { primary: true })
  orderId!: string;

  @OneOf(MOMENTS, { primary: true })
  moment!: Moment;

  /** The code of the button that was pressed; empty at all other moments. */
  @Code(30, { primary: true, default: '' })
  button!: string;

  @Int({ to: 'RuleBookRow' })
  bookNo!: number;

  /** Facts, lines, prices and templates: with them the book gives the same again. */
  @Json()
  ground!: unknown;

  @Json()
  ruled!: unknown;

  @At()
  at!: Date;
}
