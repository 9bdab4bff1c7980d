import { Entity } from 'typeorm';
import { At, Json, Text, Uuid } from '../database/columns.js';

@Entity('actKey')
export class ActKey {
  @Uuid({ primary: true })
  id!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Text(24)
  kind!: string;

  @Json({ nullable: true })
  answer!: unknown | null;
}
