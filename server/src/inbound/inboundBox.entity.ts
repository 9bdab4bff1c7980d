import { Entity, Index } from 'typeorm';
import { Big, Fixed, Int, Ref } from '../database/columns.js';

/** A packed box, or a pallet of a part, with the number of its shipping unit, which never comes again: it follows from the count of the row. */
@Entity('inboundBox')
@Index(['parcelId'], { unique: true })
@Index(['sscc'], { unique: true })
@Index(['partId'])
@Index(['partId', 'pallet'], { unique: true })
export class InboundBoxRow {
  @Big({ primary: true, generated: 'increment' })
  n!: number;

  @Ref('InboundPart')
  partId!: string;

  @Ref('Parcel', { nullable: true })
  parcelId!: string | null;

  /** Of a pallet: the how-manieth of its part it is. */
  @Int({ nullable: true })
  pallet!: number | null;

  @Fixed(18, 'code', { nullable: true })
  sscc!: string | null;
}
