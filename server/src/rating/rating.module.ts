import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CarriersModule } from '../carriers/carriers.module.js';
import { CatalogModule } from '../catalog/catalog.module.js';
import { HouseModule } from '../house/house.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { ChoiceService } from './choice.service.js';
import { Compare } from './compare.service.js';
import { PiecesOfOrders } from './orderPieces.service.js';
import { ParcelTemplate } from './parcelTemplate.entity.js';
import { Prices } from './prices.service.js';
import { RatingController } from './rating.controller.js';
import { RatingService } from './rating.service.js';
import { StoredPrices } from './storedPrices.service.js';
import { ParcelTemplates } from './templates.service.js';

export { type OrderPieces, PiecesOfOrders } from './orderPieces.service.js';
export type { PriceGround } from './prices.service.js';
export { RatingService } from './rating.service.js';
export { StoredPrices, serviceCode } from './storedPrices.service.js';
export { ParcelTemplates } from './templates.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([ParcelTemplate]),
    HouseModule,
    CarriersModule,
    TimetableModule,
    RecordsModule,
    ParcelsModule,
    ProductsModule,
    CatalogModule,
  ],
  controllers: [RatingController],
  providers: [RatingService, Prices, Compare, ChoiceService, ParcelTemplates, PiecesOfOrders, StoredPrices],
  exports: [RatingService, ParcelTemplates, PiecesOfOrders, StoredPrices],
})
export class RatingModule {}
