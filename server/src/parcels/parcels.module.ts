import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CarriersModule } from '../carriers/carriers.module.js';
import { HouseModule } from '../house/house.module.js';
import { Parcel } from './parcel.entity.js';
import { ParcelsController } from './parcels.controller.js';
import { ParcelsQueries } from './parcels.queries.js';
import { Parcels } from './parcels.service.js';

export { troubleOnTheWay } from './onTheWay.js';
export { ParcelNo } from './parcelNo.js';
export { parcelState } from './parcelState.js';
export { type ParcelRow, ParcelsQueries } from './parcels.queries.js';
export { Parcels } from './parcels.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([Parcel]), HouseModule, CarriersModule],
  controllers: [ParcelsController],
  providers: [ParcelsQueries, Parcels],
  exports: [ParcelsQueries, Parcels],
})
export class ParcelsModule {}
