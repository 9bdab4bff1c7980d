import { PAPER_KINDS, type TemplateKind } from '@auk/contract';
import { Entity, Index } from 'typeorm';
import { Flag, Int, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('paperTemplate')
@Index(['channelId'])
@Index(['kind', 'position'])
export class PaperTemplate {
  @Uuid({ primary: true })
  id!: string;

  @OneOf(PAPER_KINDS)
  kind!: TemplateKind;

  @Text(60)
  name!: string;

  @Int()
  position!: number;

  @Ref('Channel', { nullable: true })
  channelId!: string | null;

  @Text(6, { default: '' })
  country!: string;

  /** For buyers whose mail address has these letters in it; empty for all. */
  @Text(120, { default: '' })
  buyer!: string;

  @Text(80, { default: '' })
  heading!: string;

  @Text(600, { default: '' })
  message!: string;

  @Flag({ default: false })
  prices!: boolean;

  @Flag({ default: false })
  metric!: boolean;
}
