import { Entity, Index } from 'typeorm';
import { At, Big, Text } from './columns.js';

@Entity('outbox')
@Index(['position'], { unique: true })
@Index(['at'])
export class Outbox {
  @Big({ primary: true, generated: 'increment' })
  id!: number;

  @At()
  at!: Date;

  @Text(16)
  topic!: string;

  @Text(40)
  ref!: string;

  @Big({ nullable: true })
  position!: number | null;
}
