import { Entity, Index } from 'typeorm';
import { At, Int, Ref, Text, Uuid } from '../database/columns.js';

@Entity('recipe')
@Index(['productId', 'version'], { unique: true })
export class Recipe {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Product')
  productId!: string;

  @Int()
  version!: number;

  @At()
  createdAt!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Text(200, { default: '' })
  note!: string;
}
