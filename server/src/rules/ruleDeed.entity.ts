import { Entity } from 'typeorm';
import { At, Code, Int, Ref } from '../database/columns.js';

/** Something that a rule did to an order and does not do again. */
@Entity('ruleDeed')
export class RuleDeed {
  @Ref('Order', { primary: true })
  orderId!: string;

  @Code(36, { primary: true })
  ruleId!: string;

  /** Which deed, with a mark of the facts that it was done for where other facts are another reason. */
  @Code(80, { primary: true })
  what!: string;

  @Int()
  bookNo!: number;

  @At()
  at!: Date;
}
