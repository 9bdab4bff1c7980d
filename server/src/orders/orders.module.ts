import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { IntakeModule } from '../intake/intake.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { DeskService } from './desk.service.js';
import { OrderEditing } from './editing.service.js';
import { KeptQuestion } from './keptQuestion.entity.js';
import { LatinAddresses } from './latin.service.js';
import { OrderListQueries } from './list.queries.js';
import { OrderNote } from './orderNote.entity.js';
import { OrdersController } from './orders.controller.js';
import { OrdersQueries } from './orders.queries.js';
import { OrdersService } from './orders.service.js';
import { OrderTag } from './orderTag.entity.js';
import { Preference } from './preference.entity.js';
import { TypedOrders } from './typed.service.js';

export { OrderListQueries } from './list.queries.js';
export { noteOrders, tagOrders } from './marks.js';
export { OrdersQueries } from './orders.queries.js';
export { OrdersService } from './orders.service.js';
export { TypedOrders } from './typed.service.js';
export { wordsFound } from './words.queries.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([KeptQuestion, OrderNote, OrderTag, Preference]),
    HouseModule,
    StockModule,
    ProductsModule,
    RecordsModule,
    ReservationsModule,
    IntakeModule,
    ScansModule,
    TimetableModule,
    ParcelsModule,
  ],
  controllers: [OrdersController],
  providers: [
    OrderEditing,
    OrdersService,
    TypedOrders,
    OrderListQueries,
    OrdersQueries,
    DeskService,
    LatinAddresses,
  ],
  exports: [OrdersService, TypedOrders, OrderListQueries, OrdersQueries],
})
export class OrdersModule {}
