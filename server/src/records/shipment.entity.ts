import { Entity, Index } from 'typeorm';
import { Int, Json, Ref, Uuid } from '../database/columns.js';

@Entity('shipment')
@Index(['departureId'])
@Index(['orderId', 'seq'], { unique: true })
export class Shipment {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @Int()
  seq!: number;

  @Ref('Departure', { nullable: true })
  departureId!: string | null;

  /** The service that a person chose before its label is bought. */
  @Json({ nullable: true })
  chosen!: unknown | null;

  /** What rules decided for it: service, box and the rest, each with the rule. A person's choice stands above. */
  @Json({ nullable: true })
  ruled!: unknown | null;
}
