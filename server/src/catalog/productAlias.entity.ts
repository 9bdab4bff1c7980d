import { Entity, Index } from 'typeorm';
import { Code, Ref } from '../database/columns.js';

@Entity('productAlias')
@Index(['productId'])
export class ProductAlias {
  @Code(60, { primary: true })
  code!: string;

  @Ref('Product', { primary: true })
  productId!: string;
}
