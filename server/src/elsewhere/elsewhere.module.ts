import { Module } from '@nestjs/common';
import { CarriersModule } from '../carriers/carriers.module.js';
import { DeparturesModule } from '../departures/departures.module.js';
import { HouseModule } from '../house/house.module.js';
import { IntakeModule } from '../intake/intake.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { LabelsModule } from '../labels/labels.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { MailsModule } from '../mails/mails.module.js';
import { OrdersModule } from '../orders/orders.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { ProductsModule } from '../products/products.module.js';
import { ReceivingModule } from '../receiving/receiving.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { StockModule } from '../stock/stock.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { CenterOrders } from './centerOrders.service.js';
import { Centers } from './centers.service.js';
import { ElsewhereController } from './elsewhere.controller.js';
import { Elsewhere } from './elsewhere.service.js';
import { PurchaseFiles } from './files.service.js';
import { Placing } from './placing.service.js';

export { type CenterAnswer, Centers } from './centers.service.js';
export { Elsewhere, type Sender } from './elsewhere.service.js';

@Module({
  imports: [
    HouseModule,
    CarriersModule,
    ProductsModule,
    StockModule,
    RecordsModule,
    ReservationsModule,
    TimetableModule,
    IntakeModule,
    OrdersModule,
    ParcelsModule,
    LabelsModule,
    MailsModule,
    DeparturesModule,
    JobsModule,
    LeasesModule,
    ReceivingModule,
  ],
  controllers: [ElsewhereController],
  providers: [CenterOrders, Centers, Elsewhere, Placing, PurchaseFiles],
  exports: [Centers, Elsewhere],
})
export class ElsewhereModule {}
