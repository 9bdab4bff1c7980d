import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { CorrectionsController } from './corrections.controller.js';
import { StockCorrections } from './corrections.service.js';
import { Expiry } from './expiry.service.js';
import { StockCount } from './stockCount.entity.js';
import { StockDesk } from './stockDesk.service.js';

export { StockCorrections } from './corrections.service.js';
export { StockDesk } from './stockDesk.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([StockCount]),
    LeasesModule,
    HouseModule,
    StockModule,
    ProductsModule,
    RecordsModule,
    ScansModule,
    ReservationsModule,
  ],
  controllers: [CorrectionsController],
  providers: [StockCorrections, Expiry, StockDesk],
  exports: [StockCorrections, Expiry, StockDesk],
})
export class CorrectionsModule {}
