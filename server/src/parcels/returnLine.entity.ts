import { Check, Entity, Index } from 'typeorm';
import { Int, Ref } from '../database/columns.js';

@Entity('returnLine')
@Index(['lineId'])
@Check(`quantity > 0`)
export class ReturnLine {
  @Ref('ReturnReceipt', { primary: true })
  receiptId!: string;

  @Ref('OrderLine', { primary: true })
  lineId!: string;

  @Int()
  quantity!: number;
}
