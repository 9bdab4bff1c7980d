import { Entity, Index } from 'typeorm';
import { At, Big, Int, Json, Ref, Text, Uuid } from '../database/columns.js';

@Entity('scanEvent')
@Index(['seq'], { unique: true })
@Index(['sessionId', 'seq'])
export class ScanEvent {
  @Uuid({ primary: true })
  id!: string;

  @Big({ generated: 'increment' })
  seq!: number;

  @Ref('ScanSession')
  sessionId!: string;

  @Text(60)
  device!: string;

  @Int()
  deviceCount!: number;

  @At()
  deviceAt!: Date;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  /** Who sent it, where that was another than who made it. */
  @Uuid({ nullable: true })
  sentById!: string | null;

  /** Version of the reducers that judged it. */
  @Int({ default: 1 })
  reducers!: number;

  @Json()
  scan!: unknown;

  @Json()
  answer!: unknown;
}
