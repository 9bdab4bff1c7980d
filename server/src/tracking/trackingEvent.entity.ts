import { TRACK_KINDS, type TrackKind } from '@auk/core';
import { Entity } from 'typeorm';
import { At, Code, OneOf, Ref, Text } from '../database/columns.js';

@Entity('trackingEvent')
export class TrackingEvent {
  @Ref('Label', { primary: true })
  labelId!: string;

  /** The carrier's own name for it. */
  @Code(60, { primary: true })
  code!: string;

  @At()
  at!: Date;

  @OneOf(TRACK_KINDS)
  kind!: TrackKind;

  @Text(200)
  says!: string;

  @Text(80)
  place!: string;
}
