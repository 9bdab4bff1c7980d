import { Entity } from 'typeorm';
import { At, Code, Json, Ref, Uuid } from '../database/columns.js';

/** The address of an order in Latin letters, as somebody has given it for carriers that take no others. */
@Entity('latinAddress')
export class LatinAddress {
  @Ref('Order', { primary: true })
  orderId!: string;

  /** The digest of the address that it stands for (SHA-1): for another address it does not count. */
  @Code(40)
  ofAddress!: string;

  @Json()
  address!: unknown;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;
}
