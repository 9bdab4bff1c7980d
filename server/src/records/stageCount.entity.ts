import type { Stage } from '@auk/core';
import { Entity } from 'typeorm';
import { Big, Int, Text } from '../database/columns.js';

@Entity('stageCount')
export class StageCount {
  @Big({ primary: true, generated: 'increment' })
  id!: number;

  @Text(12)
  stage!: Stage;

  @Int()
  n!: number;
}
