import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { Parcel } from './parcel.entity.js';
import { ParcelsController } from './parcels.controller.js';
import { ParcelsQueries } from './parcels.queries.js';
import { Parcels } from './parcels.service.js';
import { ReturnLine } from './returnLine.entity.js';
import { ReturnReceipt } from './returnReceipt.entity.js';

export { parcelState } from './parcelState.js';
export { type ParcelRow, ParcelsQueries } from './parcels.queries.js';
export { Parcels } from './parcels.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([Parcel, ReturnLine, ReturnReceipt])],
  controllers: [ParcelsController],
  providers: [ParcelsQueries, Parcels],
  exports: [ParcelsQueries, Parcels],
})
export class ParcelsModule {}
