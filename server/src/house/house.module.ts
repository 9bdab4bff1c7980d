import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { ExchangeRate } from './exchangeRate.entity.js';
import { HouseService } from './house.service.js';
import { Setting } from './setting.entity.js';
import { Warehouse } from './warehouse.entity.js';

export { type Days, daysAround } from './days.js';
export { HouseService } from './house.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([ExchangeRate, Setting, Warehouse])],
  providers: [HouseService],
  exports: [HouseService],
})
export class HouseModule {}
