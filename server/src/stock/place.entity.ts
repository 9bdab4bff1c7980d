import { Check, Entity, Index } from 'typeorm';
import { At, Code, Int, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('place')
@Index(['code'])
@Index(['kind'])
@Index(['standsAtId'])
@Index(['warehouseId', 'code'], { unique: true })
@Check(`capacity > 0`)
export class Place {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Warehouse')
  warehouseId!: string;

  @Code(100)
  code!: string;

  @OneOf([
    'bin',
    'tote',
    'trolley',
    'staging',
    'bench',
    'parcel',
    'quarantine',
    'missing',
    'gone',
    'center',
    'outside',
    'reserve',
    'dock',
    'made',
    'cell',
    'away',
  ])
  kind!:
    | 'bin'
    | 'tote'
    | 'trolley'
    | 'staging'
    | 'bench'
    | 'parcel'
    | 'quarantine'
    | 'missing'
    | 'gone'
    | 'center'
    | 'outside'
    | 'reserve'
    | 'dock'
    | 'made'
    | 'cell'
    | 'away';

  @Int({ nullable: true })
  aisle!: number | null;

  @Int({ nullable: true })
  along!: number | null;

  @Int({ nullable: true })
  level!: number | null;

  @Text(5, { nullable: true })
  side!: string | null;

  @Int({ default: 0 })
  walk!: number;

  @Text(12, { nullable: true })
  mark!: string | null;

  /** Of a tote: what it is made in. */
  @OneOf(['grey', 'blue', 'green', 'yellow', 'red', 'white'], { nullable: true })
  colour!: 'grey' | 'blue' | 'green' | 'yellow' | 'red' | 'white' | null;

  /** The order of a tote or a cell. */
  @Uuid({ nullable: true })
  busyWith!: string | null;

  /** The staging place that a tote or trolley was dropped at, and since when. */
  @Ref('Place', { nullable: true })
  standsAtId!: string | null;

  @At({ nullable: true })
  stoodSince!: Date | null;

  @Text(20, { default: '' })
  zone!: string;

  @Int({ nullable: true })
  bay!: number | null;

  @Text(2, { nullable: true })
  bin!: string | null;

  @Int({ nullable: true })
  capacity!: number | null;
}
