import type { Keep } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { forgetActs } from '../acts/acts.queries.js';
import { PrintQueue } from '../benches/benches.module.js';
import { Db, type Doer } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { ImportRuns } from '../imports/imports.module.js';
import { JobsService } from '../jobs/jobs.module.js';
import { Rounds } from '../leases/leases.module.js';
import { Photos } from '../packing/packing.module.js';
import { PlanningService } from '../planning/planning.module.js';
import { ScansService } from '../scans/scans.module.js';

/** What counts while nobody has set it. */
export const KEEP: Keep = { scansDays: 800, filesDays: 365, jobsDays: 30, photosDays: 400 };
const EVERY_MS = 3_600_000;
const LEASE_MS = 60_000;

/** Forgets what is done and old enough, by the house's settings. Nothing that is still open is ever forgotten. */
@Injectable()
export class Upkeep {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly jobs: JobsService,
    private readonly scans: ScansService,
    private readonly files: ImportRuns,
    private readonly plans: PlanningService,
    private readonly photos: Photos,
    private readonly prints: PrintQueue,
    rounds: Rounds,
  ) {
    rounds.register({
      name: 'upkeep',
      everyMs: EVERY_MS,
      leaseMs: LEASE_MS,
      lanes: async () => [''],
      work: () => this.forget(),
    });
  }

  /** The settings; what was not there when they were kept counts as while nobody has set it. */
  async keep(): Promise<Keep> {
    return { ...KEEP, ...(await this.house.setting(this.db, 'keep', KEEP)) };
  }

  set(keep: Keep, doer: Doer): Promise<void> {
    return this.db.tx(doer, tx => this.house.set(tx, 'keep', keep));
  }

  private async forget(): Promise<void> {
    const { scansDays, filesDays, jobsDays, photosDays } = await this.keep();
    await this.jobs.forget(jobsDays);
    await this.plans.forget(jobsDays);
    await this.files.forget(filesDays);
    await this.photos.forget(photosDays);
    await this.prints.forget(jobsDays);
    await this.scans.forget(scansDays);
    await forgetActs(this.db, scansDays);
  }
}
