import { Entity, Index } from 'typeorm';
import { At, Ref, Text, Uuid } from '../database/columns.js';

@Entity('keptQuestion')
@Index(['personId', 'name'], { unique: true })
export class KeptQuestion {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Person')
  personId!: string;

  @Text(60)
  name!: string;

  @Text(1000)
  question!: string;

  @At()
  at!: Date;
}
