import { Check, Entity, Index } from 'typeorm';
import { Big, Code, Int, Ref } from '../database/columns.js';

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

  /** Of a case as it was measured: its sides in tenths of a millimetre, what it weighs in milligrams. */
  @Int({ nullable: true })
  length!: number | null;

  @Int({ nullable: true })
  width!: number | null;

  @Int({ nullable: true })
  height!: number | null;

  @Big({ nullable: true })
  weightMg!: number | null;
}
