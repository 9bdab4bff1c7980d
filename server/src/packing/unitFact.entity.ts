import { Entity, Index } from 'typeorm';
import { At, Code, Day, Int, Ref, Text, Uuid } from '../database/columns.js';

/** What was told of a packed unit: its serial number, lot, expiry, an answer. A serial number is one unit's until that comes back. */
@Entity('unitFact')
@Index(['productId', 'liveSerial'], { unique: true })
@Index(['orderId', 'n'], { unique: true })
@Index(['serial'])
@Index(['lot'])
@Index(['partId'])
@Index(['parcelId'])
export class UnitFact {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @Ref('LinePart')
  partId!: string;

  @Ref('Parcel')
  parcelId!: string;

  @Ref('Product')
  productId!: string;

  /** Its number in the session that packed it. */
  @Int()
  n!: number;

  @Code(60, { nullable: true })
  serial!: string | null;

  @Code(60, { nullable: true })
  lot!: string | null;

  @Day({ nullable: true })
  expiry!: string | null;

  @Text(60, { nullable: true })
  answer!: string | null;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @At({ nullable: true })
  returnedAt!: Date | null;

  @Code(60, {
    nullable: true,
    asExpression: 'if(`returnedAt` is null,`serial`,NULL)',
    generatedType: 'STORED',
  })
  liveSerial!: string | null;
}
