import { Entity, Index } from 'typeorm';
import { Code, Flag, OneOf, Ref, Text, Uuid } from '../database/columns.js';

/** A packing place with its printers. Its code is printed and stuck on it. */
@Entity('bench')
@Index(['code'], { unique: true })
@Index(['name'], { unique: true })
@Index(['labelPrinterId'])
@Index(['slipPrinterId'])
@Index(['invoicePrinterId'])
export class Bench {
  @Uuid({ primary: true })
  id!: string;

  @Code(20)
  code!: string;

  @Text(40)
  name!: string;

  @Ref('Printer', { nullable: true })
  labelPrinterId!: string | null;

  @Ref('Printer', { nullable: true })
  slipPrinterId!: string | null;

  @Ref('Printer', { nullable: true })
  invoicePrinterId!: string | null;

  /** Where its scale sends its lines: a host and a port. */
  @Text(80, { nullable: true })
  scaleAt!: string | null;

  @OneOf(['wait', 'next'], { default: 'wait' })
  afterOrder!: 'wait' | 'next';

  /** Orders are checked only: no box, weight or label. */
  @Flag({ default: false })
  checkOnly!: boolean;

  /** A photo of each open box is wanted. */
  @Flag({ default: false })
  wantsPhoto!: boolean;

  /** The press that closes a parcel buys the first service for it, where that one is in time. */
  @Flag({ default: false })
  takesFirst!: boolean;
}
