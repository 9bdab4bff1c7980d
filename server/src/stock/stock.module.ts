import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { Allocation } from './allocation.entity.js';
import { AllocationEntry } from './allocationEntry.entity.js';
import { FloorService } from './floor.service.js';
import { Lot } from './lot.entity.js';
import { Lots } from './lots.service.js';
import { Place } from './place.entity.js';
import { Places } from './places.service.js';
import { ProductStock } from './productStock.entity.js';
import { PutAway } from './putAway.service.js';
import { StockController } from './stock.controller.js';
import { StockQueries } from './stock.queries.js';
import { StockService } from './stock.service.js';
import { StockBalance } from './stockBalance.entity.js';
import { StockMove } from './stockMove.entity.js';
import { Totes } from './totes.service.js';
import { Walls } from './walls.service.js';

export { FloorService, type Standing } from './floor.service.js';
export { forgetProduct } from './forget.js';
export { Lots } from './lots.service.js';
export { type PlaceFound, placeByCode, placesFound } from './places.queries.js';
export { Places } from './places.service.js';
export { PutAway } from './putAway.service.js';
export { type HoldChange, type Move, PROMISED_FROM, PROMISED_KINDS, StockService } from './stock.service.js';
export { StockBalance } from './stockBalance.entity.js';
export { totesByCode } from './totes.queries.js';
export type { CellRow } from './walls.queries.js';
export { Walls } from './walls.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([
      Allocation,
      AllocationEntry,
      Lot,
      Place,
      ProductStock,
      StockBalance,
      StockMove,
    ]),
    HouseModule,
  ],
  controllers: [StockController],
  providers: [StockService, Places, FloorService, Totes, Walls, PutAway, Lots, StockQueries],
  exports: [StockService, Places, FloorService, Walls, PutAway, Lots],
})
export class StockModule {}
