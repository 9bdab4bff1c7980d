import { Module } from '@nestjs/common';
import { BenchesModule } from '../benches/benches.module.js';
import { HouseModule } from '../house/house.module.js';
import { ImportsModule } from '../imports/imports.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { PackingModule } from '../packing/packing.module.js';
import { PlanningModule } from '../planning/planning.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { UpkeepController } from './upkeep.controller.js';
import { Upkeep } from './upkeep.service.js';

@Module({
  imports: [
    HouseModule,
    JobsModule,
    ScansModule,
    ImportsModule,
    LeasesModule,
    PlanningModule,
    PackingModule,
    BenchesModule,
  ],
  controllers: [UpkeepController],
  providers: [Upkeep],
})
export class UpkeepModule {}
