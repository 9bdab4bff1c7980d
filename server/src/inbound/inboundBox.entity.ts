import { Entity, Index } from 'typeorm';
import { Big, Fixed, Ref } from '../database/columns.js';

/** A packed box with the number of its shipping unit, which never comes again: it follows from the count of the row. */
@Entity('inboundBox')
@Index(['parcelId'], { unique: true })
@Index(['sscc'], { unique: true })
@Index(['partId'])
export class InboundBoxRow {
  @Big({ primary: true, generated: 'increment' })
  n!: number;

  @Ref('InboundPart')
  partId!: string;

  @Ref('Parcel')
  parcelId!: string;

  @Fixed(18, 'code', { nullable: true })
  sscc!: string | null;
}
