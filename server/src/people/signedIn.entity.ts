import { Entity, Index } from 'typeorm';
import { At, Fixed, Ref } from '../database/columns.js';

@Entity('signedIn')
@Index(['personId'])
export class SignedIn {
  @Fixed(64, 'code', { primary: true })
  tokenHash!: string;

  @Ref('Person')
  personId!: string;

  @At()
  createdAt!: Date;

  @At()
  expiresAt!: Date;
}
