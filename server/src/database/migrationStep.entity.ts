import { Entity } from 'typeorm';
import { Code, Flag, Int } from './columns.js';

/** What of each migration was carried out, so that a killed one goes on where it stood. */
@Entity('migrationStep')
export class MigrationStep {
  @Code(60, { primary: true })
  name!: string;

  @Int({ primary: true })
  step!: number;

  @Flag()
  done!: boolean;
}
