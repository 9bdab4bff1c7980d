import { Entity, Index } from 'typeorm';
import { At, Flag, Int, Json, OneOf, Ref, Text, Uuid } from '../database/columns.js';

/** A plan of pick lists: the question it answers, how far planning is, and what it comes to. */
@Entity('pickPlan')
@Index(['createdAt'])
@Index(['warehouseId'])
export class PickPlan {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Warehouse')
  warehouseId!: string;

  @At()
  createdAt!: Date;

  @Uuid({ nullable: true })
  createdBy!: string | null;

  @OneOf(['planning', 'ready', 'failed'], { default: 'planning' })
  state!: 'planning' | 'ready' | 'failed';

  @Json()
  question!: unknown;

  /** Lists and distance of the best plan so far, while planning. */
  @Json({ nullable: true })
  progress!: unknown | null;

  /** Method, bound, and what it is measured by, once ready. */
  @Json({ nullable: true })
  outcome!: unknown | null;

  @Text(400, { nullable: true })
  says!: string | null;

  @Flag({ default: false })
  stopAsked!: boolean;

  /** Raised by every change, so that two people do not change one plan past each other. */
  @Int({ default: 0 })
  version!: number;
}
