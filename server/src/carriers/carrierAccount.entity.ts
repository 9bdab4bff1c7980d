import { Entity, Index } from 'typeorm';
import { Code, Flag, OneOf, Text, Uuid } from '../database/columns.js';

/** Who pays a carrier, and where its prices come from: the carrier is asked, or a rate sheet of one's own counts. */
@Entity('carrierAccount')
@Index(['carrier', 'number'], { unique: true })
export class CarrierAccount {
  @Uuid({ primary: true })
  id!: string;

  @Code(30, { to: 'CarrierRow' })
  carrier!: string;

  @Text(60)
  name!: string;

  @Code(40, { default: '' })
  number!: string;

  @OneOf(['asked', 'sheet'])
  rates!: 'asked' | 'sheet';

  @Flag({ default: true })
  inUse!: boolean;
}
