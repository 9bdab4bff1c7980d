import { Entity, Index } from 'typeorm';
import { At, Code, Json, Text, Uuid } from '../database/columns.js';

/** A named service, with its box and what is asked beside carrying. */
@Entity('parcelTemplate')
@Index(['name'], { unique: true })
export class ParcelTemplate {
  @Uuid({ primary: true })
  id!: string;

  @Text(60)
  name!: string;

  @Code(30, { to: 'CarrierRow' })
  carrier!: string;

  @Code(40, { default: '' })
  account!: string;

  @Code(40)
  service!: string;

  @Text(80)
  serviceName!: string;

  @Code(20, { nullable: true, to: 'Box' })
  boxCode!: string | null;

  @Json()
  options!: unknown;

  @At()
  at!: Date;
}
