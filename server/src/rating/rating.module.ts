import { Module } from '@nestjs/common';
import { CarriersModule } from '../carriers/carriers.module.js';
import { HouseModule } from '../house/house.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { RecordsModule } from '../records/records.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { RatingService } from './rating.service.js';

export { RatingService } from './rating.service.js';

@Module({
  imports: [HouseModule, CarriersModule, TimetableModule, RecordsModule, ParcelsModule],
  providers: [RatingService],
  exports: [RatingService],
})
export class RatingModule {}
