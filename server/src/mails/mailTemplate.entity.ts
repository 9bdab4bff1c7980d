import { MAIL_MOMENTS, type MailMoment } from '@auk/contract';
import { Entity, Index } from 'typeorm';
import { Flag, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('mailTemplate')
@Index(['moment'])
@Index(['channelId'])
export class MailTemplate {
  @Uuid({ primary: true })
  id!: string;

  /** By which rules name it; empty where its moment sends it. */
  @Text(60, { default: '' })
  name!: string;

  @OneOf(MAIL_MOMENTS)
  moment!: MailMoment;

  @Ref('Channel', { nullable: true })
  channelId!: string | null;

  @Flag({ default: true })
  inUse!: boolean;

  @Text(150)
  subject!: string;

  @Text(3000)
  text!: string;
}
