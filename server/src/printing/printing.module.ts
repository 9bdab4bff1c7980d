import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { OrdersModule } from '../orders/orders.module.js';
import { PeopleModule } from '../people/people.module.js';
import { ProductsModule } from '../products/products.module.js';
import { StockModule } from '../stock/stock.module.js';
import { PapersAbroad } from './papersAbroad.service.js';
import { PaperTemplate } from './paperTemplate.entity.js';
import { PrintingController } from './printing.controller.js';
import { PrintingService } from './printing.service.js';
import { TagPrinting } from './tags.service.js';
import { PaperTemplates } from './templates.service.js';

export {
  type BoxOnPaper,
  drawBoxLabels,
  drawPalletLabels,
  drawShipmentList,
  type ShipmentOnPaper,
} from './inboundPapers.js';
export { PrintingService } from './printing.service.js';
export { drawCodes } from './scanSheet.js';
export { drawTags, type Tag } from './tags.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([PaperTemplate]),
    HouseModule,
    ProductsModule,
    StockModule,
    OrdersModule,
    PeopleModule,
  ],
  controllers: [PrintingController],
  providers: [PrintingService, PapersAbroad, TagPrinting, PaperTemplates],
  exports: [PrintingService],
})
export class PrintingModule {}
