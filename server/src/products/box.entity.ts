import { Check, Entity } from 'typeorm';
import { At, Big, Code, Int, OneOf, Text } from '../database/columns.js';

@Entity('box')
@Check(`height > 0`)
@Check(`length > 0`)
@Check(`limitMg > 0`)
@Check(`width > 0`)
export class Box {
  @Code(20, { primary: true })
  code!: string;

  @Text(40)
  name!: string;

  @Int()
  length!: number;

  @Int()
  width!: number;

  @Int()
  height!: number;

  @Big()
  tareMg!: number;

  @Big()
  limitMg!: number;

  @Int()
  priceMinor!: number;

  @OneOf(['box', 'mailer'], { default: 'box' })
  kind!: 'box' | 'mailer';

  /** How many are there; null when nobody counts them. */
  @Int({ nullable: true })
  stock!: number | null;

  /** Where it stands in the order in which boxes are preferred. */
  @Int({ default: 0 })
  position!: number;

  @At({ nullable: true })
  retiredAt!: Date | null;
}
