import { Check, Entity } from 'typeorm';
import { Big, Code, Int, Text } from '../database/columns.js';

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
}
