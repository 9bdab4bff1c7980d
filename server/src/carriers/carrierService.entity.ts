import { Entity } from 'typeorm';
import { Code, Flag, Text } from '../database/columns.js';

/** A service that a carrier has offered once; one that is not in use is offered no more. */
@Entity('carrierService')
export class CarrierServiceRow {
  @Code(30, { primary: true, to: 'CarrierRow' })
  carrier!: string;

  @Code(40, { primary: true })
  service!: string;

  @Text(80)
  name!: string;

  @Flag({ default: true })
  inUse!: boolean;
}
