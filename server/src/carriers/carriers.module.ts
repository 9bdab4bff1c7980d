import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { CarrierRow } from './carrier.entity.js';
import { CarrierAccount } from './carrierAccount.entity.js';
import { CarrierClosed } from './carrierClosed.entity.js';
import { CarrierServiceRow } from './carrierService.entity.js';
import { CarriersController } from './carriers.controller.js';
import { CarrierRegistry } from './carriers.registry.js';
import { CarriersService } from './carriers.service.js';
import { RateSheetRow } from './rateSheet.entity.js';

export { askCarrier, isSilence, jsonOf } from './askCarrier.js';
export { type Asked, type Carrier, TRACK_AT_ONCE } from './carrier.js';
export { CarrierRegistry, type ServingAccount } from './carriers.registry.js';
export { CarriersService } from './carriers.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([CarrierRow, CarrierAccount, CarrierClosed, CarrierServiceRow, RateSheetRow]),
    HouseModule,
  ],
  controllers: [CarriersController],
  providers: [CarrierRegistry, CarriersService],
  exports: [CarrierRegistry, CarriersService],
})
export class CarriersModule {}
