import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { Bills } from './bills.service.js';
import { CarrierBill } from './carrierBill.entity.js';
import { CarrierBillLine } from './carrierBillLine.entity.js';
import { CostsController } from './costs.controller.js';
import { Costs } from './costs.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([CarrierBill, CarrierBillLine]), HouseModule],
  controllers: [CostsController],
  providers: [Costs, Bills],
})
export class CostsModule {}
