import { Entity, Index } from 'typeorm';
import { At, Code, Int, Json, OneOf, Text, Uuid } from '../database/columns.js';

@Entity('job')
@Index(['lane', 'state', 'runAt'])
@Index(['subjectId'])
@Index(['state', 'runAt'])
export class Job {
  @Uuid({ primary: true })
  id!: string;

  @Text(24)
  kind!: string;

  @Json()
  payload!: unknown;

  @OneOf(['waiting', 'taken', 'done', 'given up'])
  state!: 'waiting' | 'taken' | 'done' | 'given up';

  @Int({ default: 0 })
  attempts!: number;

  @At()
  runAt!: Date;

  @Text(400, { nullable: true })
  error!: string | null;

  @Uuid({ nullable: true })
  subjectId!: string | null;

  @At()
  createdAt!: Date;

  @Code(60, { default: '' })
  lane!: string;
}
