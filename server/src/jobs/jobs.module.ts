import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LeasesModule } from '../leases/leases.module.js';
import { Job } from './job.entity.js';
import { JobsController } from './jobs.controller.js';
import { JobsService } from './jobs.service.js';

export { type Job, JobsService, type JobTurn, laneOf } from './jobs.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([Job]), LeasesModule],
  controllers: [JobsController],
  providers: [JobsService],
  exports: [JobsService],
})
export class JobsModule {}
