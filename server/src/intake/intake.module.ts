import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CarriersModule } from '../carriers/carriers.module.js';
import { HouseModule } from '../house/house.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { OrderChecks } from './checks.service.js';
import { DuplicateSearch } from './duplicates.js';
import { OrderIntake } from './intake.js';
import { LatinAddress } from './latinAddress.entity.js';
import { OrderDifference } from './orderDifference.entity.js';
import { StopAccepted } from './stopAccepted.entity.js';
import { StopReason } from './stopReason.entity.js';
import { Suspicion } from './suspicion.entity.js';

export { OrderChecks, openDifferences, toOpen } from './checks.service.js';
export { DuplicateSearch } from './duplicates.js';
export { OrderIntake } from './intake.js';
export type { IntakeChannel } from './prepare.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([StopAccepted, StopReason, OrderDifference, Suspicion, LatinAddress]),
    HouseModule,
    CarriersModule,
    ProductsModule,
    RecordsModule,
    ReservationsModule,
    TimetableModule,
  ],
  providers: [OrderChecks, DuplicateSearch, OrderIntake],
  exports: [OrderChecks, DuplicateSearch, OrderIntake],
})
export class IntakeModule {}
