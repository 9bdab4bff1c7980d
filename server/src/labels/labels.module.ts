import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { BenchesModule } from '../benches/benches.module.js';
import { CarriersModule } from '../carriers/carriers.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { PrintingModule } from '../printing/printing.module.js';
import { RatingModule } from '../rating/rating.module.js';
import { RecordsModule } from '../records/records.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { ClaimsController } from './claims.controller.js';
import { Claims } from './claims.service.js';
import { Label } from './label.entity.js';
import { LabelsController } from './labels.controller.js';
import { Labels } from './labels.service.js';
import { Purchases } from './purchases.service.js';
import { RefundClaim } from './refundClaim.entity.js';
import { Strays } from './strays.service.js';
import { Voiding } from './voiding.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([Label, RefundClaim]),
    LeasesModule,
    CarriersModule,
    TimetableModule,
    RecordsModule,
    ParcelsModule,
    RatingModule,
    PrintingModule,
    BenchesModule,
  ],
  controllers: [LabelsController, ClaimsController],
  providers: [Labels, Purchases, Voiding, Claims, Strays],
  exports: [Labels],
})
export class LabelsModule {}
