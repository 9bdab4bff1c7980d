import { Check, Entity, Index } from 'typeorm';
import { At, Day, Int, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('build')
@Index(['benchId'])
@Index(['no'], { unique: true })
@Index(['orderId'], { unique: true })
@Index(['productId'])
@Index(['recipeId'])
@Index(['state', 'due'])
@Check(`made >= 0 and made <= quantity`)
@Check(`quantity > 0`)
export class Build {
  @Uuid({ primary: true })
  id!: string;

  @Int({ generated: 'increment' })
  no!: number;

  @OneOf(['make', 'unbuild'])
  kind!: 'make' | 'unbuild';

  @Ref('Product')
  productId!: string;

  @Ref('Recipe')
  recipeId!: string;

  @Int()
  quantity!: number;

  @Int({ default: 0 })
  made!: number;

  @Day({ nullable: true })
  due!: string | null;

  @Ref('Place', { nullable: true })
  benchId!: string | null;

  @Text(500, { default: '' })
  instruction!: string;

  @OneOf(['pick', 'bench'])
  source!: 'pick' | 'bench';

  @OneOf(['open', 'done', 'cancelled'], { default: 'open' })
  state!: 'open' | 'done' | 'cancelled';

  @Ref('Order', { nullable: true })
  orderId!: string | null;

  @At()
  createdAt!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @At({ nullable: true })
  doneAt!: Date | null;
}
