import { Module } from '@nestjs/common';
import { IntakeModule } from '../intake/intake.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { CatalogController } from './catalog.controller.js';
import { ListingsService } from './listings.service.js';
import { ProductsService } from './products.service.js';

export { ListingsService } from './listings.service.js';
export { ProductsService } from './products.service.js';

@Module({
  imports: [ProductsModule, RecordsModule, IntakeModule],
  controllers: [CatalogController],
  providers: [ProductsService, ListingsService],
  exports: [ProductsService, ListingsService],
})
export class CatalogModule {}
