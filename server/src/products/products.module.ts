import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { StockModule } from '../stock/stock.module.js';
import { Box } from './box.entity.js';
import { BoxesController } from './boxes.controller.js';
import { Boxes } from './boxes.service.js';
import { CatalogService } from './catalog.service.js';
import { Listing } from './listing.entity.js';
import { ListingsQueries } from './listings.queries.js';
import { LineMatching } from './matching.js';
import { StockForSale } from './stockForSale.js';

export { Boxes } from './boxes.service.js';
export { CatalogService } from './catalog.service.js';
export { linkListing, pushedListings, putListing, type ToldListing, takeListings } from './listings.js';
export { ListingsQueries } from './listings.queries.js';
export { LineMatching, Matches } from './matching.js';
export { boxesNamed, customsFacts, factsHeld, type Product, pieceOf, stockedParts } from './product.js';
export { StockForSale } from './stockForSale.js';

@Module({
  imports: [TypeOrmModule.forFeature([Box, Listing]), StockModule, HouseModule],
  controllers: [BoxesController],
  providers: [Boxes, CatalogService, LineMatching, StockForSale, ListingsQueries],
  exports: [Boxes, CatalogService, LineMatching, StockForSale, ListingsQueries],
})
export class ProductsModule {}
