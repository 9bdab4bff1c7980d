import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { ListsModule } from '../lists/lists.module.js';
import { PrintingModule } from '../printing/printing.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { FloorChoice } from './floorChoice.service.js';
import { FloorTrouble } from './floorTrouble.entity.js';
import { FloorTroubles } from './floorTroubles.service.js';
import { PickingController } from './picking.controller.js';
import { PickingQueries } from './picking.queries.js';
import { PickingService } from './picking.service.js';
import { ListRelease } from './release.service.js';
import { WalkService } from './walk.service.js';

export { PickingService } from './picking.service.js';
export { ListRelease, type PlacedPart } from './release.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([FloorTrouble]),
    HouseModule,
    ListsModule,
    ProductsModule,
    StockModule,
    RecordsModule,
    ReservationsModule,
    ScansModule,
    PrintingModule,
  ],
  controllers: [PickingController],
  providers: [PickingService, ListRelease, WalkService, FloorChoice, FloorTroubles, PickingQueries],
  exports: [PickingService, ListRelease],
})
export class PickingModule {}
