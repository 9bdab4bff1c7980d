import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { ChannelsModule } from '../channels/channels.module.js';
import { HouseModule } from '../house/house.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { MailsModule } from '../mails/mails.module.js';
import { PackingModule } from '../packing/packing.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ReservationsModule } from '../reservations/reservations.module.js';
import { StockModule } from '../stock/stock.module.js';
import { TrackingModule } from '../tracking/tracking.module.js';
import { ReturnedPiece } from './returnedPiece.entity.js';
import { ReturnReceipt } from './returnReceipt.entity.js';
import { ReturnsController } from './returns.controller.js';
import { Returns } from './returns.service.js';
import { TellingReturns } from './tellingReturns.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([ReturnReceipt, ReturnedPiece]),
    HouseModule,
    StockModule,
    RecordsModule,
    ReservationsModule,
    MailsModule,
    TrackingModule,
    ChannelsModule,
    JobsModule,
    PackingModule,
  ],
  controllers: [ReturnsController],
  providers: [Returns, TellingReturns],
})
export class ReturnsModule {}
