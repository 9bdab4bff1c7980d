import { Entity, Index } from 'typeorm';
import { At, Bytes, Fixed, Int, Json, Ref, Text, Uuid } from '../database/columns.js';

/** A file that was dropped. It is taken in by a job, portion by portion; `taken` says how far it is. */
@Entity('importFile')
@Index(['channelId'])
@Index(['at'])
export class ImportFile {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Channel', { nullable: true })
  channelId!: string | null;

  @Text(200)
  name!: string;

  @Fixed(64)
  digest!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Json()
  counts!: unknown;

  @Text(12, { default: 'orders' })
  kind!: string;

  /** The question it was dropped with: its source and its columns. */
  @Json({ nullable: true })
  question!: unknown | null;

  /** The file itself, packed (gzip), until it is taken in whole. */
  @Bytes({ nullable: true })
  bytes!: Buffer | null;

  @Int({ default: 0 })
  taken!: number;

  @Int({ default: 0 })
  things!: number;

  /** What became of the things taken so far. */
  @Json({ nullable: true })
  report!: unknown | null;

  @At({ nullable: true })
  doneAt!: Date | null;
}
