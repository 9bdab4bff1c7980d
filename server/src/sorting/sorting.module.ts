import { Module } from '@nestjs/common';
import { ListsModule } from '../lists/lists.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { SortingController } from './sorting.controller.js';
import { SortingService } from './sorting.service.js';

@Module({
  imports: [ListsModule, ProductsModule, RecordsModule, ScansModule, StockModule],
  controllers: [SortingController],
  providers: [SortingService],
})
export class SortingModule {}
