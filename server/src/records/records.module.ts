import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { ListsModule } from '../lists/lists.module.js';
import { ProductsModule } from '../products/products.module.js';
import { StockModule } from '../stock/stock.module.js';
import { GivingUp } from './givingUp.service.js';
import { HeldOrders } from './held.service.js';
import { LinePart } from './linePart.entity.js';
import { Order } from './order.entity.js';
import { OrderEvent } from './orderEvent.entity.js';
import { OrderLine } from './orderLine.entity.js';
import { SentElsewhere } from './sentElsewhere.entity.js';
import { Shipment } from './shipment.entity.js';
import { StageCount } from './stageCount.entity.js';
import { StageNews } from './stageNews.service.js';
import { StagePassed } from './stagePassed.entity.js';
import { Undoing } from './undoing.service.js';
import { OrderWriter } from './writer.js';

export {
  addressFields,
  addressOf,
  HEAD_COLUMNS,
  loadOrders,
  ordersUnderWay,
  type StoredOrder,
} from './documents.js';
export { changeElsewhere, isElsewhere, sendElsewhere, sendFromHere, sentElsewhere } from './elsewhere.js';
export { event, ruleEvent, toHistory } from './events.js';
export { GivingUp } from './givingUp.service.js';
export {
  type EntryRows,
  insertOrders,
  insertTyped,
  setFirstStage,
  setHead,
  wantMore,
  wantOnlyUsed,
} from './heads.js';
export { HeldOrders } from './held.service.js';
export {
  BUILDS,
  HAND,
  HOUSE_CHANNELS,
  INBOUND,
  refuseBuild,
  refuseHouseOrder,
  refuseTheirs,
  refuseTold,
} from './houseOrders.js';
export { awayOf, buyersAmong, inboundOfOrder } from './houseOrders.queries.js';
export {
  APART,
  chooseFor,
  leaveWith,
  type RuledShipment,
  ruledOf,
  ruleFor,
  type WantedService,
  wantedFor,
  wantedOf,
} from './leaving.js';
export { leavesAgain, weightOf } from './leaving.queries.js';
export { ekeOut, leaveOut, productsOf } from './parts.js';
export { freeSplitNumber, makeWay, rootOf } from './splitNumbers.js';
export { StageNews } from './stageNews.service.js';
export type { StagePassed } from './stagePassed.entity.js';
export {
  countStages,
  emptyHolds,
  lockOrders,
  passed,
  refreshStages,
  stageCounts,
  stageFacts,
} from './stages.js';
export { Undoing } from './undoing.service.js';
export { headColumns, lineRows, OrderWriter, skuOfKey } from './writer.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([
      LinePart,
      Order,
      OrderEvent,
      OrderLine,
      SentElsewhere,
      Shipment,
      StageCount,
      StagePassed,
    ]),
    HouseModule,
    StockModule,
    ProductsModule,
    ListsModule,
    LeasesModule,
  ],
  providers: [OrderWriter, Undoing, GivingUp, HeldOrders, StageNews],
  exports: [OrderWriter, Undoing, GivingUp, HeldOrders, StageNews],
})
export class RecordsModule {}
