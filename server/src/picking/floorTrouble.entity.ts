import { Entity, Index } from 'typeorm';
import { At, OneOf, Ref, Text, Uuid } from '../database/columns.js';

/** What goes wrong at the shelves: a product that was scanned where another was wanted, or a code that was typed or pressed. */
@Entity('floorTrouble')
@Index(['at'])
@Index(['wantedId'])
@Index(['scannedId'])
@Index(['placeId'])
export class FloorTrouble {
  @Uuid({ primary: true })
  id!: string;

  @At()
  at!: Date;

  @OneOf(['mix-up', 'by hand'])
  kind!: 'mix-up' | 'by hand';

  @Ref('Product', { nullable: true })
  wantedId!: string | null;

  @Ref('Product', { nullable: true })
  scannedId!: string | null;

  /** The place at which it happened. */
  @Ref('Place', { nullable: true })
  placeId!: string | null;

  /** What was typed or pressed. */
  @Text(60, { default: '' })
  said!: string;

  @Uuid({ nullable: true })
  personId!: string | null;
}
