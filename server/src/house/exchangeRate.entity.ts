import { Check, Entity } from 'typeorm';
import { Day, Decimal, Fixed } from '../database/columns.js';

@Entity('exchangeRate')
@Check(`perHouse > 0`)
export class ExchangeRate {
  @Fixed(3, { primary: true })
  currency!: string;

  @Day({ primary: true })
  day!: string;

  @Decimal(18, 8)
  perHouse!: number;
}
