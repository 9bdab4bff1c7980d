import { Entity, Index } from 'typeorm';
import { At, Ref, Text } from '../database/columns.js';

/** A device remembers its bench until it is taken to another one. */
@Entity('benchDevice')
@Index(['benchId'])
export class BenchDevice {
  @Text(60, { primary: true })
  device!: string;

  @Ref('Bench')
  benchId!: string;

  @At()
  at!: Date;
}
