import type { Stage } from '@auk/core';
import { Entity } from 'typeorm';
import { At, Big, Text, Uuid } from '../database/columns.js';

@Entity('stagePassed')
export class StagePassed {
  @Big({ primary: true, generated: 'increment' })
  id!: number;

  @Uuid()
  orderId!: string;

  @Text(20)
  stage!: Stage;

  @At()
  at!: Date;
}
