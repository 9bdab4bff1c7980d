import { Entity, Index } from 'typeorm';
import { Code, Flag, OneOf, Text, Uuid } from '../database/columns.js';

@Entity('person')
@Index(['badge'], { unique: true })
export class Person {
  @Uuid({ primary: true })
  id!: string;

  @Code(20)
  badge!: string;

  @Text(80)
  name!: string;

  @OneOf(['lead', 'picker', 'packer', 'office', 'admin'])
  role!: 'lead' | 'picker' | 'packer' | 'office' | 'admin';

  @Text(200)
  pinHash!: string;

  @Flag({ default: true })
  active!: boolean;
}
