import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { BenchesModule } from '../benches/benches.module.js';
import { CatalogModule } from '../catalog/catalog.module.js';
import { HouseModule } from '../house/house.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RatingModule } from '../rating/rating.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { Ahead } from './ahead.service.js';
import { BenchViews } from './benchViews.service.js';
import { Opening } from './opening.service.js';
import { OrderPhoto } from './orderPhoto.entity.js';
import { PackingController } from './packing.controller.js';
import { PackingService } from './packing.service.js';
import { PackPlan } from './packPlan.entity.js';
import { PackPlans } from './packPlans.service.js';
import { Photos } from './photos.service.js';
import { Spoiled } from './spoiled.service.js';
import { UnitFact } from './unitFact.entity.js';
import { UnitFacts } from './unitFacts.service.js';
import { Unpacking } from './unpacking.service.js';

export { Ahead } from './ahead.service.js';
export { PackingService } from './packing.service.js';
export { PackPlans, type PlannedBoxes } from './packPlans.service.js';
export { Photos } from './photos.service.js';
export { Spoiled } from './spoiled.service.js';
export { UnitFacts } from './unitFacts.service.js';
export { Unpacking } from './unpacking.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([UnitFact, OrderPhoto, PackPlan]),
    BenchesModule,
    CatalogModule,
    HouseModule,
    ProductsModule,
    StockModule,
    RecordsModule,
    ScansModule,
    ParcelsModule,
    RatingModule,
    ReservationsModule,
  ],
  controllers: [PackingController],
  providers: [PackingService, Ahead, Opening, BenchViews, PackPlans, Spoiled, UnitFacts, Unpacking, Photos],
  exports: [Ahead, PackPlans, PackingService, Photos, Spoiled, UnitFacts, Unpacking],
})
export class PackingModule {}
