import { Module } from '@nestjs/common';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { PackingController } from './packing.controller.js';
import { PackingService } from './packing.service.js';

export { PackingService } from './packing.service.js';

@Module({
  imports: [ProductsModule, StockModule, RecordsModule, ScansModule, ParcelsModule],
  controllers: [PackingController],
  providers: [PackingService],
  exports: [PackingService],
})
export class PackingModule {}
