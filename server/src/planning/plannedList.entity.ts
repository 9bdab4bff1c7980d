import { Entity, Index } from 'typeorm';
import { Flag, Int, Ref, Uuid } from '../database/columns.js';

/** A list of a plan. Distance in tenths of a millimetre; `seconds` it takes, `finish` seconds after planning it is done by `picker`. */
@Entity('plannedList')
@Index(['planId', 'seq'])
@Index(['pickListId'])
export class PlannedList {
  @Uuid({ primary: true })
  id!: string;

  @Ref('PickPlan')
  planId!: string;

  @Int()
  seq!: number;

  @Int()
  distance!: number;

  @Int()
  seconds!: number;

  @Int({ nullable: true })
  finish!: number | null;

  @Int({ nullable: true })
  picker!: number | null;

  @Flag({ default: false })
  locked!: boolean;

  @Flag({ default: false })
  tooLarge!: boolean;

  /** The pick list it was released as. */
  @Ref('PickList', { nullable: true })
  pickListId!: string | null;
}
