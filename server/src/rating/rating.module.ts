import { Module } from '@nestjs/common';
import { CarriersModule } from '../carriers/carriers.module.js';
import { CatalogModule } from '../catalog/catalog.module.js';
import { HouseModule } from '../house/house.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { ChoiceService } from './choice.service.js';
import { Compare } from './compare.service.js';
import { Prices } from './prices.service.js';
import { RatingController } from './rating.controller.js';
import { RatingService } from './rating.service.js';

export type { PriceGround } from './prices.service.js';
export { RatingService } from './rating.service.js';

@Module({
  imports: [
    HouseModule,
    CarriersModule,
    TimetableModule,
    RecordsModule,
    ParcelsModule,
    ProductsModule,
    CatalogModule,
  ],
  controllers: [RatingController],
  providers: [RatingService, Prices, Compare, ChoiceService],
  exports: [RatingService],
})
export class RatingModule {}
