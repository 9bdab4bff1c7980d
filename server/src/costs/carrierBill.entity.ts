import { Entity, Index } from 'typeorm';
import { At, Code, Fixed, Text, Uuid } from '../database/columns.js';

@Entity('carrierBill')
@Index(['carrier', 'number'], { unique: true })
@Index(['at'])
export class CarrierBill {
  @Uuid({ primary: true })
  id!: string;

  @Code(30, { to: 'CarrierRow' })
  carrier!: string;

  @Text(60)
  number!: string;

  @Text(120)
  name!: string;

  @Fixed(3)
  currency!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;
}
