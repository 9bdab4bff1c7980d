import { Entity, Index } from 'typeorm';
import { At, Big, Json, Ref, Text, Uuid } from '../database/columns.js';

@Entity('productEvent')
@Index(['productId', 'id'])
export class ProductEvent {
  @Big({ primary: true, generated: 'increment' })
  id!: number;

  @Ref('Product')
  productId!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Text(600)
  says!: string;

  @Json({ nullable: true })
  changes!: unknown | null;
}
