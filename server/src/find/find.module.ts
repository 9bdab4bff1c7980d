import { Module } from '@nestjs/common';
import { OrdersModule } from '../orders/orders.module.js';
import { FindController } from './find.controller.js';
import { FindService } from './find.service.js';

@Module({
  imports: [OrdersModule],
  controllers: [FindController],
  providers: [FindService],
})
export class FindModule {}
