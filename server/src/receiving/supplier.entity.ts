import { Entity, Index } from 'typeorm';
import { Text, Uuid } from '../database/columns.js';

@Entity('supplier')
@Index(['name'], { unique: true })
export class Supplier {
  @Uuid({ primary: true })
  id!: string;

  @Text(80)
  name!: string;

  /** Where orders are sent; empty where nobody told. */
  @Text(254, { default: '' })
  mail!: string;
}
