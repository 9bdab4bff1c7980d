import { Entity, Index } from 'typeorm';
import { At, OneOf, Uuid } from '../database/columns.js';

/** Labels of many parcels that are priced, shown, and then bought in one go. */
@Entity('labelBatch')
@Index(['at'])
export class LabelBatch {
  @Uuid({ primary: true })
  id!: string;

  @OneOf(['pricing', 'priced', 'buying', 'done', 'stopped'])
  state!: 'pricing' | 'priced' | 'buying' | 'done' | 'stopped';

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;
}
