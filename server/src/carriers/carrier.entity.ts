import { Entity } from 'typeorm';
import { Big, Code, Flag, Int, Text } from '../database/columns.js';

/** A carrier that this house ships with, and how it is reached. */
@Entity('carrier')
export class CarrierRow {
  @Code(30, { primary: true })
  code!: string;

  @Text(60)
  name!: string;

  @Text(20)
  kind!: string;

  @Text(200)
  address!: string;

  @Text(600, { nullable: true })
  keySealed!: string | null;

  @Flag({ default: true })
  inUse!: boolean;

  @Int({ default: 0 })
  position!: number;

  /** It takes addresses in Latin letters only. */
  @Flag({ default: false })
  latin!: boolean;

  /** Orders up to this weight are planned with it before a label is bought. */
  @Big({ nullable: true })
  planUpToMg!: number | null;
}
