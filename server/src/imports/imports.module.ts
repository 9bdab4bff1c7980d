import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogModule } from '../catalog/catalog.module.js';
import { CorrectionsModule } from '../corrections/corrections.module.js';
import { ElsewhereModule } from '../elsewhere/elsewhere.module.js';
import { HouseModule } from '../house/house.module.js';
import { IntakeModule } from '../intake/intake.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { KitsModule } from '../kits/kits.module.js';
import { OrdersModule } from '../orders/orders.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { ProductsModule } from '../products/products.module.js';
import { ReceivingModule } from '../receiving/receiving.module.js';
import { StockModule } from '../stock/stock.module.js';
import { ExportsService } from './exports.service.js';
import { ImportFile } from './importFile.entity.js';
import { ImportMapping } from './importMapping.entity.js';
import { ImportsController } from './imports.controller.js';
import { ImportsService } from './imports.service.js';
import { LayoutImport } from './layoutImport.js';
import { ListingsImport } from './listingsImport.js';
import { OrdersImport } from './ordersImport.js';
import { PlacesImport } from './placesImport.js';
import { ProductsImport } from './productsImport.js';
import { PurchasesImport } from './purchasesImport.js';
import { RecipesImport } from './recipesImport.js';
import { ImportRuns } from './runs.service.js';
import { SentImport } from './sentImport.js';
import { StockImport } from './stockImport.js';

export { ImportRuns } from './runs.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([ImportFile, ImportMapping]),
    HouseModule,
    JobsModule,
    ProductsModule,
    CatalogModule,
    IntakeModule,
    OrdersModule,
    ParcelsModule,
    KitsModule,
    ReceivingModule,
    ElsewhereModule,
    CorrectionsModule,
    StockModule,
  ],
  controllers: [ImportsController],
  providers: [
    ImportsService,
    ImportRuns,
    ExportsService,
    OrdersImport,
    ProductsImport,
    ListingsImport,
    RecipesImport,
    StockImport,
    PlacesImport,
    LayoutImport,
    PurchasesImport,
    SentImport,
  ],
  exports: [ImportsService, ImportRuns],
})
export class ImportsModule {}
