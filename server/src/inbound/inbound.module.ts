import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { BenchesModule } from '../benches/benches.module.js';
import { CarriersModule } from '../carriers/carriers.module.js';
import { DeparturesModule } from '../departures/departures.module.js';
import { ElsewhereModule } from '../elsewhere/elsewhere.module.js';
import { HouseModule } from '../house/house.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { OrdersModule } from '../orders/orders.module.js';
import { PackingModule } from '../packing/packing.module.js';
import { PrintingModule } from '../printing/printing.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { InboundBookings } from './bookings.service.js';
import { InboundBoxEdits } from './boxEdits.service.js';
import { InboundDrafts } from './drafts.service.js';
import { InboundFollowing } from './following.service.js';
import { InboundController } from './inbound.controller.js';
import { InboundBoxRow } from './inboundBox.entity.js';
import { InboundCount } from './inboundCount.entity.js';
import { InboundDifference } from './inboundDifference.entity.js';
import { InboundEvent } from './inboundEvent.entity.js';
import { InboundLine } from './inboundLine.entity.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundPartLine } from './inboundPartLine.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { InboundLoading } from './loading.service.js';
import { InboundPapers } from './papers.service.js';
import { InboundPlans } from './plans.service.js';
import { PreparingController } from './preparing.controller.js';
import { InboundPreparing } from './preparing.service.js';
import { InboundReplanning } from './replanning.service.js';
import { InboundReserving } from './reserving.service.js';
import { InboundViews } from './views.service.js';
import { InboundWaysService } from './ways.service.js';

export { InboundBookings } from './bookings.service.js';
export { InboundDrafts } from './drafts.service.js';
export { InboundFollowing } from './following.service.js';
export { InboundPreparing } from './preparing.service.js';
export { InboundReserving } from './reserving.service.js';
export { InboundViews } from './views.service.js';
export { InboundWaysService } from './ways.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([
      InboundShipment,
      InboundLine,
      InboundPart,
      InboundPartLine,
      InboundBoxRow,
      InboundEvent,
      InboundCount,
      InboundDifference,
    ]),
    HouseModule,
    CarriersModule,
    ProductsModule,
    StockModule,
    RecordsModule,
    ReservationsModule,
    OrdersModule,
    PackingModule,
    DeparturesModule,
    ElsewhereModule,
    LeasesModule,
    ScansModule,
    BenchesModule,
    PrintingModule,
  ],
  controllers: [InboundController, PreparingController],
  providers: [
    InboundBookings,
    InboundBoxEdits,
    InboundDrafts,
    InboundFollowing,
    InboundLoading,
    InboundPapers,
    InboundPlans,
    InboundPreparing,
    InboundReplanning,
    InboundReserving,
    InboundViews,
    InboundWaysService,
  ],
  exports: [
    InboundBookings,
    InboundDrafts,
    InboundFollowing,
    InboundPreparing,
    InboundReserving,
    InboundViews,
    InboundWaysService,
  ],
})
export class InboundModule {}
