import { Entity, Index } from 'typeorm';
import { Code, Fixed, Json, Text, Uuid } from '../database/columns.js';

@Entity('channel')
@Index(['code'], { unique: true })
export class Channel {
  @Uuid({ primary: true })
  id!: string;

  @Code(20)
  code!: string;

  @Text(80)
  name!: string;

  @Text(80)
  brand!: string;

  @Fixed(3)
  currency!: string;

  @Json()
  sender!: unknown;
}
