import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { JobsModule } from '../jobs/jobs.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { PrintingModule } from '../printing/printing.module.js';
import { Bench } from './bench.entity.js';
import { BenchDevice } from './benchDevice.entity.js';
import { BenchesController } from './benches.controller.js';
import { Benches } from './benches.service.js';
import { Printer } from './printer.entity.js';
import { PrintJob } from './printJob.entity.js';
import { PrintQueue } from './printQueue.service.js';
import { Scales } from './scales.service.js';

export { Benches } from './benches.service.js';
export { PrintQueue } from './printQueue.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([Bench, BenchDevice, Printer, PrintJob]),
    JobsModule,
    PrintingModule,
    ParcelsModule,
  ],
  controllers: [BenchesController],
  providers: [Benches, PrintQueue, Scales],
  exports: [Benches, PrintQueue],
})
export class BenchesModule {}
