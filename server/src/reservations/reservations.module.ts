import { Module } from '@nestjs/common';
import { HouseModule } from '../house/house.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { StockModule } from '../stock/stock.module.js';
import { Reservations } from './reservations.service.js';

export { type PartWant, Reservations } from './reservations.service.js';

@Module({
  imports: [HouseModule, StockModule, ProductsModule, RecordsModule],
  providers: [Reservations],
  exports: [Reservations],
})
export class ReservationsModule {}
