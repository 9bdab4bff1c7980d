import { Injectable } from '@nestjs/common';
import { Db, type Tx } from '../database/db.js';
import { Rounds } from '../leases/leases.module.js';
import type { StagePassed } from './stagePassed.entity.js';
import { STAGES_PASSED, takePassed } from './stages.js';

/** Does something about orders that came to a stage, in the transaction that takes the notes away. */
export type StageListener = (tx: Tx, rows: readonly StagePassed[]) => Promise<void>;

const AT_ONCE = 500;

/** Tells those who wait for it which stages orders came to; each note is told once, to all of them together or to none. */
@Injectable()
export class StageNews {
  private readonly listeners: StageListener[] = [];

  constructor(
    private readonly db: Db,
    rounds: Rounds,
  ) {
    rounds.register({
      name: STAGES_PASSED,
      everyMs: 2_000,
      leaseMs: 30_000,
      lanes: async () => [''],
      work: () => this.tell(),
    });
  }

  listen(listener: StageListener): void {
    this.listeners.push(listener);
  }

  private async tell(): Promise<void> {
    let taken = AT_ONCE;
    while (taken === AT_ONCE)
      taken = await this.db.tx({ personId: null, at: new Date() }, async tx => {
        const rows = await takePassed(tx, AT_ONCE);
        for (const listener of this.listeners) await listener(tx, rows);
        return rows.length;
      });
  }
}
