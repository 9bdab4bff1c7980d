import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CorrectionsModule } from '../corrections/corrections.module.js';
import { HouseModule } from '../house/house.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { PurchaseLine } from './purchaseLine.entity.js';
import { PurchaseOrder } from './purchaseOrder.entity.js';
import { PurchaseOrders } from './purchaseOrders.service.js';
import { ReceivingController } from './receiving.controller.js';
import { Receiving } from './receiving.service.js';
import { Supplier } from './supplier.entity.js';

export { orderedBefore } from './purchaseOrders.queries.js';
export { PurchaseOrders } from './purchaseOrders.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([PurchaseLine, PurchaseOrder, Supplier]),
    HouseModule,
    StockModule,
    ProductsModule,
    RecordsModule,
    ReservationsModule,
    CorrectionsModule,
    ScansModule,
  ],
  controllers: [ReceivingController],
  providers: [PurchaseOrders, Receiving],
  exports: [PurchaseOrders],
})
export class ReceivingModule {}
