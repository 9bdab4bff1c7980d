import { Entity, Index } from 'typeorm';
import { At, Big, Code, Uuid } from '../database/columns.js';

@Entity('lease')
@Index(['until'])
export class Lease {
  @Code(80, { primary: true })
  name!: string;

  @Uuid()
  owner!: string;

  @Big()
  fence!: number;

  @At()
  until!: Date;
}
