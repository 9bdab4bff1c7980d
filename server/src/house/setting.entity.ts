import { Entity } from 'typeorm';
import { Json, Text } from '../database/columns.js';

@Entity('setting')
export class Setting {
  @Text(40, { primary: true })
  name!: string;

  @Json()
  value!: unknown;
}
