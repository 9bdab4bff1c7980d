import { VERDICTS, type Verdict } from '@auk/core';
import { Entity, Index } from 'typeorm';
import { Big, Code, Int, Json, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('carrierBillLine')
@Index(['billId', 'seq'], { unique: true })
@Index(['labelId'])
@Index(['tracking'])
export class CarrierBillLine {
  @Uuid({ primary: true })
  id!: string;

  @Ref('CarrierBill')
  billId!: string;

  @Int()
  seq!: number;

  @Code(40)
  tracking!: string;

  @Ref('Label', { nullable: true })
  labelId!: string | null;

  @Text(80)
  service!: string;

  @Big({ nullable: true })
  weightMg!: number | null;

  @Big()
  minor!: number;

  @Json()
  charges!: unknown;

  @OneOf(VERDICTS)
  verdict!: Verdict;

  @Big({ nullable: true })
  agreedMinor!: number | null;

  @Text(300)
  says!: string;
}
