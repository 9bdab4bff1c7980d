import { Entity } from 'typeorm';
import { Day } from '../database/columns.js';

/** A day of the warehouse on which something is bought unattended: whoever reserves locks it, so that sums are never read by two at once. */
@Entity('spendDay')
export class SpendDay {
  @Day({ primary: true })
  day!: string;
}
