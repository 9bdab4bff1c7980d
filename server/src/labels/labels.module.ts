import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { BenchesModule } from '../benches/benches.module.js';
import { CarriersModule } from '../carriers/carriers.module.js';
import { HouseModule } from '../house/house.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { PrintingModule } from '../printing/printing.module.js';
import { RatingModule } from '../rating/rating.module.js';
import { RecordsModule } from '../records/records.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { BatchesController } from './batches.controller.js';
import { Batches } from './batches.service.js';
import { ClaimsController } from './claims.controller.js';
import { Claims } from './claims.service.js';
import { ElsewhereLabels } from './elsewhere.service.js';
import { Label } from './label.entity.js';
import { LabelBatch } from './labelBatch.entity.js';
import { LabelBatchItem } from './labelBatchItem.entity.js';
import { LabelsController } from './labels.controller.js';
import { Labels } from './labels.service.js';
import { Purchases } from './purchases.service.js';
import { RefundClaim } from './refundClaim.entity.js';
import { Strays } from './strays.service.js';
import { Voiding } from './voiding.service.js';

export { ElsewhereLabels } from './elsewhere.service.js';
export { Labels } from './labels.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([Label, LabelBatch, LabelBatchItem, RefundClaim]),
    HouseModule,
    JobsModule,
    LeasesModule,
    CarriersModule,
    TimetableModule,
    RecordsModule,
    ParcelsModule,
    RatingModule,
    PrintingModule,
    BenchesModule,
  ],
  controllers: [LabelsController, ClaimsController, BatchesController],
  providers: [Labels, Purchases, Voiding, Claims, Strays, Batches, ElsewhereLabels],
  exports: [ElsewhereLabels, Labels],
})
export class LabelsModule {}
