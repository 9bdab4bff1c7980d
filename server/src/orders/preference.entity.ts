import { Entity } from 'typeorm';
import { Json, Ref, Text } from '../database/columns.js';

@Entity('preference')
export class Preference {
  @Ref('Person', { primary: true })
  personId!: string;

  @Text(40, { primary: true })
  name!: string;

  @Json()
  value!: unknown;
}
