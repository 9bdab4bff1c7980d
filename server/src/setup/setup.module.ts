import { Module } from '@nestjs/common';
import { ChannelsModule } from '../channels/channels.module.js';
import { HouseModule } from '../house/house.module.js';
import { PeopleModule } from '../people/people.module.js';
import { StockModule } from '../stock/stock.module.js';
import { Opening } from './opening.service.js';
import { SetupController } from './setup.controller.js';

@Module({
  imports: [HouseModule, PeopleModule, StockModule, ChannelsModule],
  controllers: [SetupController],
  providers: [Opening],
  exports: [Opening],
})
export class SetupModule {}
