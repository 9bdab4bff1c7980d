import { Entity } from 'typeorm';
import { Day, Text } from '../database/columns.js';

/** A day on which no carrier collects or delivers. */
@Entity('carrierClosed')
export class CarrierClosed {
  @Day({ primary: true })
  day!: string;

  @Text(60)
  name!: string;
}
