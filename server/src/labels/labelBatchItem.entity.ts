import { Entity, Index } from 'typeorm';
import { Big, Int, Json, OneOf, Ref, Text, Uuid } from '../database/columns.js';

/** A parcel of a batch. Its id is the key that its label is bought under, so that the same item never buys twice. */
@Entity('labelBatchItem')
@Index(['batchId', 'seq'], { unique: true })
@Index(['batchId', 'parcelId'], { unique: true })
@Index(['parcelId'])
export class LabelBatchItem {
  @Uuid({ primary: true })
  id!: string;

  @Ref('LabelBatch')
  batchId!: string;

  @Int()
  seq!: number;

  @Ref('Parcel')
  parcelId!: string;

  /** How far it came; once its label was asked for, what became of it tells the label. */
  @OneOf(['waiting', 'priced', 'none', 'asked', 'refused'], { default: 'waiting' })
  state!: 'waiting' | 'priced' | 'none' | 'asked' | 'refused';

  /** What is to be bought, as it was offered. */
  @Json({ nullable: true })
  offer!: unknown | null;

  /** Its price in house money. */
  @Big({ nullable: true })
  minor!: number | null;

  @Text(300, { nullable: true })
  why!: string | null;
}
