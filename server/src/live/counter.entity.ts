import { Entity } from 'typeorm';
import { Big, Code } from '../database/columns.js';

/** Counters that only grow, also when what they counted is forgotten. */
@Entity('counter')
export class Counter {
  @Code(20, { primary: true })
  name!: string;

  @Big({ default: 0 })
  value!: number;
}
