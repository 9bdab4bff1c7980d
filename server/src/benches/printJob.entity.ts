import { type PaperKind, PRINTED_KINDS } from '@auk/contract';
import { Entity, Index } from 'typeorm';
import { At, Int, Json, OneOf, Ref, Text, Uuid } from '../database/columns.js';

/** A paper for a printer: which one it is, and what became of it. The paper itself is drawn when it is sent. */
@Entity('printJob')
@Index(['printerId', 'state'])
@Index(['at'])
@Index(['orderId'])
@Index(['benchId'])
export class PrintJob {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Printer')
  printerId!: string;

  @Ref('Bench', { nullable: true })
  benchId!: string | null;

  @OneOf(PRINTED_KINDS)
  kind!: PaperKind;

  @Ref('Order')
  orderId!: string;

  /** The number of the parcel whose label it is. */
  @Int({ nullable: true })
  parcelNo!: number | null;

  /** Of unit labels: what stands on each, and how many. */
  @Json({ nullable: true })
  tags!: unknown;

  @OneOf(['waiting', 'printed'], { default: 'waiting' })
  state!: 'waiting' | 'printed';

  @Int({ default: 0 })
  tries!: number;

  /** How often it came out of the printer. */
  @Int({ default: 0 })
  copies!: number;

  @Text(300, { nullable: true })
  why!: string | null;

  @At()
  at!: Date;

  @At({ nullable: true })
  printedAt!: Date | null;

  @Uuid({ nullable: true })
  personId!: string | null;
}
