import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { PickingModule } from '../picking/picking.module.js';
import { StockModule } from '../stock/stock.module.js';
import { PickForecasts } from './pickForecast.service.js';
import { PickPlan } from './pickPlan.entity.js';
import { PlannedList } from './plannedList.entity.js';
import { PlannedOrder } from './plannedOrder.entity.js';
import { PlanningController } from './planning.controller.js';
import { PlanningService } from './planning.service.js';
import { PlanTimes } from './planTimes.service.js';
import { PlanWork } from './planWork.service.js';

export { type PickForecast, PickForecasts } from './pickForecast.service.js';
export { PlanningService } from './planning.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([PickPlan, PlannedList, PlannedOrder]),
    HouseModule,
    JobsModule,
    PickingModule,
    StockModule,
  ],
  controllers: [PlanningController],
  providers: [PlanningService, PlanWork, PlanTimes, PickForecasts],
  exports: [PlanningService, PickForecasts],
})
export class PlanningModule {}
