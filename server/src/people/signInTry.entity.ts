import { Check, Entity, Index } from 'typeorm';
import { At, Code, Int } from '../database/columns.js';

@Entity('signInTry')
@Index(['until'])
@Check(`tries >= 0`)
export class SignInTry {
  @Code(40, { primary: true })
  badge!: string;

  @Int({ default: 0 })
  tries!: number;

  @At()
  until!: Date;
}
