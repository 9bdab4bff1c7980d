import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { IntakeModule } from '../intake/intake.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { CatalogController } from './catalog.controller.js';
import { ListingsService } from './listings.service.js';
import { Measured } from './measured.entity.js';
import { Measures } from './measures.service.js';
import { PictureFile } from './pictureFile.entity.js';
import { Pictures } from './pictures.service.js';
import { Product } from './product.entity.js';
import { ProductAlias } from './productAlias.entity.js';
import { ProductCode } from './productCode.entity.js';
import { ProductEvent } from './productEvent.entity.js';
import { ProductsService } from './products.service.js';
import { Recipe } from './recipe.entity.js';
import { RecipePart } from './recipePart.entity.js';

export { ListingsService } from './listings.service.js';
export { Measures } from './measures.service.js';
export { ProductsService } from './products.service.js';
export { putRecipe } from './recipes.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([
      Measured,
      PictureFile,
      ProductEvent,
      ProductAlias,
      ProductCode,
      Product,
      Recipe,
      RecipePart,
    ]),
    ProductsModule,
    RecordsModule,
    IntakeModule,
  ],
  controllers: [CatalogController],
  providers: [ProductsService, ListingsService, Measures, Pictures],
  exports: [ProductsService, ListingsService, Measures],
})
export class CatalogModule {}
