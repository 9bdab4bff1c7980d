import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { MailsModule } from '../mails/mails.module.js';
import { PrintingModule } from '../printing/printing.module.js';
import { RecordsModule } from '../records/records.module.js';
import { BuyersController } from './buyers.controller.js';
import { Buyers } from './buyers.service.js';
import { OrderMessage } from './orderMessage.entity.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([OrderMessage]),
    HouseModule,
    RecordsModule,
    MailsModule,
    PrintingModule,
  ],
  controllers: [BuyersController],
  providers: [Buyers],
})
export class BuyersModule {}
