import { Entity } from 'typeorm';
import { At, Bytes, Text, Uuid } from '../database/columns.js';

@Entity('pictureFile')
export class PictureFile {
  @Uuid({ primary: true })
  id!: string;

  @Text(20)
  type!: string;

  @Bytes()
  bytes!: Buffer;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;
}
