import { Entity, Index } from 'typeorm';
import { Text, Uuid } from '../database/columns.js';

/** A printer, by the address that takes PDF documents for it. */
@Entity('printer')
@Index(['name'], { unique: true })
export class Printer {
  @Uuid({ primary: true })
  id!: string;

  @Text(40)
  name!: string;

  @Text(200)
  url!: string;
}
