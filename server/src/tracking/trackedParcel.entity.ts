import { TRACK_KINDS, type TrackKind } from '@auk/core';
import { Entity, Index } from 'typeorm';
import { At, Day, OneOf, Ref, Text } from '../database/columns.js';

@Entity('trackedParcel')
@Index(['askAt'])
@Index(['state'])
export class TrackedParcel {
  @Ref('Label', { primary: true })
  labelId!: string;

  /** Where it stands by what its carrier told; nothing was told yet. */
  @OneOf(TRACK_KINDS, { nullable: true })
  state!: TrackKind | null;

  @Text(200, { default: '' })
  says!: string;

  @At({ nullable: true })
  since!: Date | null;

  /** The day on which the carrier means to deliver it now. */
  @Day({ nullable: true })
  expected!: string | null;

  @At()
  leftAt!: Date;

  /** When its carrier is asked next; never again when it is over. */
  @At({ nullable: true })
  askAt!: Date | null;

  /** Why the last asking came to nothing. */
  @Text(300, { nullable: true })
  why!: string | null;
}
