import { Check, Entity } from 'typeorm';
import { Int, Ref } from '../database/columns.js';

@Entity('productStock')
@Check(`onHand >= 0 and reserved >= 0 and reserved <= onHand`)
export class ProductStock {
  @Ref('Product', { primary: true })
  productId!: string;

  @Int({ default: 0 })
  onHand!: number;

  @Int({ default: 0 })
  reserved!: number;
}
