import { Check, Entity, Index } from 'typeorm';
import { Int, Ref } from '../database/columns.js';

@Entity('recipePart')
@Index(['productId'])
@Check(`quantity > 0`)
export class RecipePart {
  @Ref('Recipe', { primary: true })
  recipeId!: string;

  @Int({ primary: true })
  position!: number;

  @Ref('Product')
  productId!: string;

  @Int()
  quantity!: number;
}
