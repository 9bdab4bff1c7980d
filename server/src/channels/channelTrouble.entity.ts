import { Entity } from 'typeorm';
import { At, Code, Json, Ref, Text } from '../database/columns.js';

@Entity('channelTrouble')
export class ChannelTrouble {
  @Ref('Channel', { primary: true })
  channelId!: string;

  @Code(60, { primary: true })
  number!: string;

  @Text(400)
  why!: string;

  @Json()
  body!: unknown;

  @At()
  at!: Date;
}
