import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogModule } from '../catalog/catalog.module.js';
import { HouseModule } from '../house/house.module.js';
import { IntakeModule } from '../intake/intake.module.js';
import { OrdersModule } from '../orders/orders.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { Build } from './build.entity.js';
import { BuildsQueries } from './builds.queries.js';
import { Builds } from './builds.service.js';
import { KitsController } from './kits.controller.js';
import { KitsQueries } from './kits.queries.js';
import { Recipes } from './recipes.service.js';

export { Builds } from './builds.service.js';
export { Recipes } from './recipes.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([Build]),
    CatalogModule,
    HouseModule,
    StockModule,
    ProductsModule,
    RecordsModule,
    ScansModule,
    ReservationsModule,
    IntakeModule,
    OrdersModule,
  ],
  controllers: [KitsController],
  providers: [Recipes, Builds, KitsQueries, BuildsQueries],
  exports: [Recipes, Builds],
})
export class KitsModule {}
