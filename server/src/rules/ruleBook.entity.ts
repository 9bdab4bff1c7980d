import { Entity } from 'typeorm';
import { At, Int, Json, Text, Uuid } from '../database/columns.js';

/** One version of the rule book. The last is the one that runs. */
@Entity('ruleBook')
export class RuleBookRow {
  @Int({ primary: true })
  no!: number;

  @Json()
  book!: unknown;

  /** What was changed, in the words of who changed it. */
  @Text(200)
  note!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;
}
