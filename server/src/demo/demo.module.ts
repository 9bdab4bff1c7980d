import { Module } from '@nestjs/common';
import { CarriersModule } from '../carriers/carriers.module.js';
import { ChannelsModule } from '../channels/channels.module.js';
import { DeparturesModule } from '../departures/departures.module.js';
import { ElsewhereModule } from '../elsewhere/elsewhere.module.js';
import { HouseModule } from '../house/house.module.js';
import { InboundModule } from '../inbound/inbound.module.js';
import { IntakeModule } from '../intake/intake.module.js';
import { KitsModule } from '../kits/kits.module.js';
import { OrdersModule } from '../orders/orders.module.js';
import { PackingModule } from '../packing/packing.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { PickingModule } from '../picking/picking.module.js';
import { ProductsModule } from '../products/products.module.js';
import { ReceivingModule } from '../receiving/receiving.module.js';
import { RecordsModule } from '../records/records.module.js';
import { RulesModule } from '../rules/rules.module.js';
import { StockModule } from '../stock/stock.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { InboundDemo } from './inbound.js';
import { DemoLoader } from './load.js';
import { PackedPast } from './past.js';

@Module({
  imports: [
    ElsewhereModule,
    HouseModule,
    CarriersModule,
    ProductsModule,
    StockModule,
    RecordsModule,
    IntakeModule,
    OrdersModule,
    TimetableModule,
    ChannelsModule,
    PickingModule,
    PackingModule,
    DeparturesModule,
    ReceivingModule,
    KitsModule,
    RulesModule,
    InboundModule,
    ParcelsModule,
  ],
  providers: [DemoLoader, InboundDemo, PackedPast],
  exports: [DemoLoader, InboundDemo],
})
export class DemoModule {}
