import { Entity, Index } from 'typeorm';
import { At, Ref, Uuid } from '../database/columns.js';

/** A product that was scanned where another was wanted. */
@Entity('mixUp')
@Index(['at'])
@Index(['wantedId', 'scannedId'])
@Index(['scannedId'])
@Index(['placeId'])
export class MixUp {
  @Uuid({ primary: true })
  id!: string;

  @At()
  at!: Date;

  @Ref('Product')
  wantedId!: string;

  @Ref('Product')
  scannedId!: string;

  /** The place at which the right one was to be taken. */
  @Ref('Place', { nullable: true })
  placeId!: string | null;

  @Uuid({ nullable: true })
  personId!: string | null;
}
