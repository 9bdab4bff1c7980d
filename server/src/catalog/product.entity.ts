import { Check, Entity, Index } from 'typeorm';
import { Big, Code, Int, Json, OneOf, Text, Uuid } from '../database/columns.js';

@Entity('product')
@Index(['valueMinor'])
@Index(['name'], { fulltext: true })
@Index(['sku'], { unique: true })
@Check(`packedWeightMg > 0`)
@Check(`weightMg > 0`)
export class Product {
  @Uuid({ primary: true })
  id!: string;

  @Code(60)
  sku!: string;

  @Text(120)
  name!: string;

  @OneOf(['piece', 'kit', 'bundle'])
  kind!: 'piece' | 'kit' | 'bundle';

  @OneOf(['Unproven', 'Live', 'Retired'])
  stage!: 'Unproven' | 'Live' | 'Retired';

  @Big({ nullable: true })
  weightMg!: number | null;

  @Int({ nullable: true })
  length!: number | null;

  @Int({ nullable: true })
  width!: number | null;

  @Int({ nullable: true })
  height!: number | null;

  @Json()
  facts!: unknown;

  @Text(120, { nullable: true })
  hint!: string | null;

  @Text(40, { nullable: true })
  picture!: string | null;

  @OneOf(['stock', 'stock then parts'], { default: 'stock' })
  kitPolicy!: 'stock' | 'stock then parts';

  @Big({ nullable: true })
  packedWeightMg!: number | null;

  @Int({ default: 1 })
  version!: number;

  @Big({
    asExpression: `cast(json_value(facts,'$.valueMinor') as signed)`,
    generatedType: 'STORED',
    nullable: true,
  })
  valueMinor!: number | null;
}
