import { Entity, Index } from 'typeorm';
import { Ref, Text } from '../database/columns.js';

@Entity('orderTag')
@Index(['orderId'])
export class OrderTag {
  @Text(30, { primary: true })
  tag!: string;

  @Ref('Order', { primary: true })
  orderId!: string;
}
