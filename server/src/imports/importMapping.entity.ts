import { Entity } from 'typeorm';
import { At, Code, Json, Text, Uuid } from '../database/columns.js';

@Entity('importMapping')
export class ImportMapping {
  @Text(12, { primary: true })
  kind!: string;

  @Code(20, { primary: true })
  source!: string;

  @Json()
  mapping!: unknown;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;
}
