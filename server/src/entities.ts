import { ActKey } from './acts/actKey.entity.js';
import { Bench } from './benches/bench.entity.js';
import { BenchDevice } from './benches/benchDevice.entity.js';
import { Printer } from './benches/printer.entity.js';
import { PrintJob } from './benches/printJob.entity.js';
import { OrderMessage } from './buyers/orderMessage.entity.js';
import { CarrierRow } from './carriers/carrier.entity.js';
import { CarrierAccount } from './carriers/carrierAccount.entity.js';
import { CarrierClosed } from './carriers/carrierClosed.entity.js';
import { CarrierServiceRow } from './carriers/carrierService.entity.js';
import { RateSheetRow } from './carriers/rateSheet.entity.js';
import { Measured } from './catalog/measured.entity.js';
import { PictureFile } from './catalog/pictureFile.entity.js';
import { Product } from './catalog/product.entity.js';
import { ProductAlias } from './catalog/productAlias.entity.js';
import { ProductCode } from './catalog/productCode.entity.js';
import { ProductEvent } from './catalog/productEvent.entity.js';
import { Recipe } from './catalog/recipe.entity.js';
import { RecipePart } from './catalog/recipePart.entity.js';
import { Channel } from './channels/channel.entity.js';
import { ChannelLink } from './channels/channelLink.entity.js';
import { ChannelTrouble } from './channels/channelTrouble.entity.js';
import { StockCount } from './corrections/stockCount.entity.js';
import { CarrierBill } from './costs/carrierBill.entity.js';
import { CarrierBillLine } from './costs/carrierBillLine.entity.js';
import { MigrationStep } from './database/migrationStep.entity.js';
import { Outbox } from './database/outbox.entity.js';
import { ExchangeRate } from './house/exchangeRate.entity.js';
import { Setting } from './house/setting.entity.js';
import { Warehouse } from './house/warehouse.entity.js';
import { ImportFile } from './imports/importFile.entity.js';
import { ImportMapping } from './imports/importMapping.entity.js';
import { InboundBoxRow } from './inbound/inboundBox.entity.js';
import { InboundCount } from './inbound/inboundCount.entity.js';
import { InboundDifference } from './inbound/inboundDifference.entity.js';
import { InboundEvent } from './inbound/inboundEvent.entity.js';
import { InboundLine } from './inbound/inboundLine.entity.js';
import { InboundPart } from './inbound/inboundPart.entity.js';
import { InboundPartLine } from './inbound/inboundPartLine.entity.js';
import { InboundShipment } from './inbound/inboundShipment.entity.js';
import { LatinAddress } from './intake/latinAddress.entity.js';
import { OrderDifference } from './intake/orderDifference.entity.js';
import { StopAccepted } from './intake/stopAccepted.entity.js';
import { StopReason } from './intake/stopReason.entity.js';
import { Suspicion } from './intake/suspicion.entity.js';
import { Job } from './jobs/job.entity.js';
import { Build } from './kits/build.entity.js';
import { Label } from './labels/label.entity.js';
import { LabelBatch } from './labels/labelBatch.entity.js';
import { LabelBatchItem } from './labels/labelBatchItem.entity.js';
import { RefundClaim } from './labels/refundClaim.entity.js';
import { Lease } from './leases/lease.entity.js';
import { PickList } from './lists/pickList.entity.js';
import { PickStop } from './lists/pickStop.entity.js';
import { Counter } from './live/counter.entity.js';
import { AlertWish } from './mails/alertWish.entity.js';
import { BrandLook } from './mails/brandLook.entity.js';
import { Mail } from './mails/mail.entity.js';
import { MailTemplate } from './mails/mailTemplate.entity.js';
import { KeptQuestion } from './orders/keptQuestion.entity.js';
import { OrderNote } from './orders/orderNote.entity.js';
import { OrderTag } from './orders/orderTag.entity.js';
import { Preference } from './orders/preference.entity.js';
import { OrderPhoto } from './packing/orderPhoto.entity.js';
import { PackPlan } from './packing/packPlan.entity.js';
import { UnitFact } from './packing/unitFact.entity.js';
import { Parcel } from './parcels/parcel.entity.js';
import { Person } from './people/person.entity.js';
import { SignedIn } from './people/signedIn.entity.js';
import { SignInTry } from './people/signInTry.entity.js';
import { FloorTrouble } from './picking/floorTrouble.entity.js';
import { PickPlan } from './planning/pickPlan.entity.js';
import { PlannedList } from './planning/plannedList.entity.js';
import { PlannedOrder } from './planning/plannedOrder.entity.js';
import { PaperTemplate } from './printing/paperTemplate.entity.js';
import { Box } from './products/box.entity.js';
import { Listing } from './products/listing.entity.js';
import { ParcelTemplate } from './rating/parcelTemplate.entity.js';
import { PurchaseLine } from './receiving/purchaseLine.entity.js';
import { PurchaseOrder } from './receiving/purchaseOrder.entity.js';
import { Supplier } from './receiving/supplier.entity.js';
import { LinePart } from './records/linePart.entity.js';
import { Order } from './records/order.entity.js';
import { OrderEvent } from './records/orderEvent.entity.js';
import { OrderLine } from './records/orderLine.entity.js';
import { SentElsewhere } from './records/sentElsewhere.entity.js';
import { Shipment } from './records/shipment.entity.js';
import { StageCount } from './records/stageCount.entity.js';
import { StagePassed } from './records/stagePassed.entity.js';
import { ReturnedPiece } from './returns/returnedPiece.entity.js';
import { ReturnReceipt } from './returns/returnReceipt.entity.js';
import { DryRun } from './rules/dryRun.entity.js';
import { RuleBookRow } from './rules/ruleBook.entity.js';
import { RuleDeed } from './rules/ruleDeed.entity.js';
import { RuleOutcome } from './rules/ruleOutcome.entity.js';
import { SpendDay } from './rules/spendDay.entity.js';
import { Unattended } from './rules/unattended.entity.js';
import { ScanEvent } from './scans/scanEvent.entity.js';
import { ScanSession } from './scans/scanSession.entity.js';
import { Allocation } from './stock/allocation.entity.js';
import { AllocationEntry } from './stock/allocationEntry.entity.js';
import { Lot } from './stock/lot.entity.js';
import { Place } from './stock/place.entity.js';
import { ProductStock } from './stock/productStock.entity.js';
import { StockBalance } from './stock/stockBalance.entity.js';
import { StockMove } from './stock/stockMove.entity.js';
import { Departure } from './timetable/departure.entity.js';
import { Timetable } from './timetable/timetable.entity.js';
import { TrackedParcel } from './tracking/trackedParcel.entity.js';
import { TrackingEvent } from './tracking/trackingEvent.entity.js';

/** Every table of the house, each said beside its feature. */
export const ENTITIES = [
  DryRun,
  RuleBookRow,
  RuleDeed,
  RuleOutcome,
  SpendDay,
  Unattended,
  ActKey,
  InboundBoxRow,
  InboundCount,
  InboundDifference,
  InboundEvent,
  InboundLine,
  InboundPart,
  InboundPartLine,
  InboundShipment,
  PackPlan,
  Listing,
  PictureFile,
  Product,
  ProductAlias,
  ProductCode,
  ProductEvent,
  CarrierRow,
  CarrierAccount,
  CarrierClosed,
  CarrierServiceRow,
  RateSheetRow,
  Channel,
  ChannelLink,
  ChannelTrouble,
  Departure,
  Timetable,
  ExchangeRate,
  Setting,
  Warehouse,
  ImportFile,
  ImportMapping,
  Job,
  Build,
  Recipe,
  RecipePart,
  Lease,
  Counter,
  MigrationStep,
  Outbox,
  KeptQuestion,
  LinePart,
  Order,
  OrderDifference,
  OrderEvent,
  OrderLine,
  OrderNote,
  OrderTag,
  Preference,
  SentElsewhere,
  Shipment,
  StageCount,
  StopAccepted,
  StopReason,
  Suspicion,
  Box,
  UnitFact,
  Measured,
  OrderPhoto,
  Bench,
  BenchDevice,
  Printer,
  PrintJob,
  Parcel,
  Label,
  LabelBatch,
  LabelBatchItem,
  RefundClaim,
  ReturnedPiece,
  ReturnReceipt,
  Person,
  PickPlan,
  PlannedList,
  PlannedOrder,
  SignInTry,
  SignedIn,
  PickList,
  PickStop,
  FloorTrouble,
  PaperTemplate,
  PurchaseLine,
  PurchaseOrder,
  Supplier,
  ScanEvent,
  ScanSession,
  Allocation,
  AllocationEntry,
  Lot,
  Place,
  ProductStock,
  StockBalance,
  StockCount,
  StockMove,
  AlertWish,
  BrandLook,
  CarrierBill,
  CarrierBillLine,
  Mail,
  MailTemplate,
  OrderMessage,
  ParcelTemplate,
  LatinAddress,
  StagePassed,
  TrackedParcel,
  TrackingEvent,
];
