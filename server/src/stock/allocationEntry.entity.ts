import { Check, Entity, Index } from 'typeorm';
import { At, Big, Int, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('allocationEntry')
@Index(['partId'])
@Check(`quantity <> 0`)
export class AllocationEntry {
  @Big({ primary: true, generated: 'increment' })
  id!: number;

  @At()
  at!: Date;

  @Ref('LinePart')
  partId!: string;

  @OneOf(['soft', 'listed', 'picked', 'packed', 'departed', 'sorted'])
  hold!: 'soft' | 'listed' | 'picked' | 'packed' | 'departed' | 'sorted';

  @Uuid()
  stopKey!: string;

  @Uuid()
  parcelKey!: string;

  @Int()
  quantity!: number;

  @Text(24)
  why!: string;

  @Uuid({ nullable: true })
  personId!: string | null;
}
