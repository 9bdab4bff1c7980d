import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CarriersModule } from '../carriers/carriers.module.js';
import { HouseModule } from '../house/house.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { MailsModule } from '../mails/mails.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { RecordsModule } from '../records/records.module.js';
import { TrackedParcel } from './trackedParcel.entity.js';
import { TrackingController } from './tracking.controller.js';
import { Tracking } from './tracking.service.js';
import { TrackingEvent } from './trackingEvent.entity.js';

export { Tracking } from './tracking.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([TrackedParcel, TrackingEvent]),
    HouseModule,
    LeasesModule,
    CarriersModule,
    RecordsModule,
    ParcelsModule,
    MailsModule,
  ],
  controllers: [TrackingController],
  providers: [Tracking],
  exports: [Tracking],
})
export class TrackingModule {}
