import { Entity, Index } from 'typeorm';
import { At, Int, OneOf, Ref, Uuid } from '../database/columns.js';

@Entity('pickList')
@Index(['no'], { unique: true })
@Index(['state'])
@Index(['trolleyId'])
@Index(['warehouseId'])
export class PickList {
  @Uuid({ primary: true })
  id!: string;

  @Int({ generated: 'increment' })
  no!: number;

  @Ref('Warehouse')
  warehouseId!: string;

  @OneOf(['released', 'picking', 'done'])
  state!: 'released' | 'picking' | 'done';

  /** How it is picked; a batch is one heap that is sorted later. */
  @OneOf(['single', 'cluster', 'batch'], { default: 'cluster' })
  method!: 'single' | 'cluster' | 'batch';

  /** What its totes stand on, or what its heap lies on. */
  @Ref('Place', { nullable: true })
  trolleyId!: string | null;

  @Int()
  distance!: number;

  /** For whom it is set aside; null for anybody. */
  @Uuid({ nullable: true })
  forId!: string | null;

  @At()
  createdAt!: Date;

  @Uuid({ nullable: true })
  createdBy!: string | null;

  @At({ nullable: true })
  doneAt!: Date | null;
}
