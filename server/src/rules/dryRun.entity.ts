import { Entity, Index } from 'typeorm';
import { At, Flag, Int, Json, OneOf, Text, Uuid } from '../database/columns.js';

/** A book tried on orders without effect: the question, how far it is, and what was found. */
@Entity('dryRun')
@Index(['at'])
export class DryRun {
  @Uuid({ primary: true })
  id!: string;

  @Json()
  question!: unknown;

  @OneOf(['waiting', 'running', 'done', 'stopped', 'failed'], { default: 'waiting' })
  state!: 'waiting' | 'running' | 'done' | 'stopped' | 'failed';

  @Int({ default: 0 })
  done!: number;

  @Int({ default: 0 })
  total!: number;

  @Text(300, { default: '' })
  says!: string;

  @Json({ nullable: true })
  result!: unknown | null;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Flag({ default: false })
  stopAsked!: boolean;
}
