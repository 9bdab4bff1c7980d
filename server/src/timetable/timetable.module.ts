import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LeasesModule } from '../leases/leases.module.js';
import { Departure } from './departure.entity.js';
import { DeparturePlanner } from './planner.service.js';
import { Timetable } from './timetable.entity.js';

export { DeparturePlanner, type OpenDeparture } from './planner.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([Departure, Timetable]), LeasesModule],
  providers: [DeparturePlanner],
  exports: [DeparturePlanner],
})
export class TimetableModule {}
