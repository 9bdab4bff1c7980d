import { Check, Entity, Index } from 'typeorm';
import { Code, Int, Ref } from '../database/columns.js';

@Entity('productCode')
@Index(['productId'])
@Check(`units > 0`)
export class ProductCode {
  @Code(100, { primary: true })
  code!: string;

  @Ref('Product')
  productId!: string;

  @Int()
  units!: number;
}
