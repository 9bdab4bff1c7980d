import { Entity, Index } from 'typeorm';
import { At, Code, Day, Ref, Uuid } from '../database/columns.js';

@Entity('lot')
@Index(['expiry'])
@Index(['productId', 'code'], { unique: true })
export class Lot {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Product')
  productId!: string;

  @Code(40)
  code!: string;

  @Day({ nullable: true })
  expiry!: string | null;

  @At({ nullable: true })
  expiredAt!: Date | null;
}
