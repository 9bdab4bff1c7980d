import 'reflect-metadata';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { type DynamicModule, Module } from '@nestjs/common';
import { APP_FILTER, APP_GUARD, NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import compression from 'compression';
import cookieParser from 'cookie-parser';
import express, { type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { DataSource } from 'typeorm';
import { CARRIERS, type Carrier } from './carriers/carrier.js';
import { CatalogController } from './catalog/catalog.controller.js';
import { CatalogService } from './catalog/catalog.service.js';
import { ListingsQueries } from './catalog/listings.queries.js';
import { ListingsService } from './catalog/listings.service.js';
import { ProductsService } from './catalog/products.service.js';
import { StockForSale } from './catalog/stockForSale.js';
import { ChannelsController } from './channels/channels.controller.js';
import { ChannelsService } from './channels/channels.service.js';
import { Db } from './database/db.js';
import { DemoLoader } from './demo/load.js';
import { PackedPast } from './demo/past.js';
import { BoardQueries } from './departures/board.queries.js';
import { DeparturesController } from './departures/departures.controller.js';
import { HandoverService } from './departures/handover.service.js';
import { DeparturePlanner } from './departures/planner.js';
import { Telling } from './departures/telling.service.js';
import { FindController } from './find/find.controller.js';
import { FindService } from './find/find.service.js';
import { HouseService } from './house/house.service.js';
import { ProblemFilter } from './http/filter.js';
import { OPEN_PATHS, refuseStrangers } from './http/strangers.js';
import { ExportsService } from './imports/exports.service.js';
import { ImportsController } from './imports/imports.controller.js';
import { ImportsService } from './imports/imports.service.js';
import { ListingsImport } from './imports/listingsImport.js';
import { OrdersImport } from './imports/ordersImport.js';
import { PlacesImport } from './imports/placesImport.js';
import { ProductsImport } from './imports/productsImport.js';
import { PurchasesImport } from './imports/purchasesImport.js';
import { RecipesImport } from './imports/recipesImport.js';
import { StockImport } from './imports/stockImport.js';
import { JobsController } from './jobs/jobs.controller.js';
import { JobsService } from './jobs/jobs.service.js';
import { BuildsQueries } from './kits/builds.queries.js';
import { Builds } from './kits/builds.service.js';
import { KitsController } from './kits/kits.controller.js';
import { KitsQueries } from './kits/kits.queries.js';
import { Recipes } from './kits/recipes.service.js';
import { Leases } from './leases/leases.service.js';
import { Rounds } from './leases/rounds.service.js';
import { LiveController } from './live/live.controller.js';
import { LiveService } from './live/live.service.js';
import { OrderChecks } from './orders/checks.service.js';
import { DeskService } from './orders/desk.service.js';
import { DuplicateSearch } from './orders/duplicates.js';
import { OrderEditing } from './orders/editing.service.js';
import { HeldOrders } from './orders/held.service.js';
import { OrderIntake } from './orders/intake.js';
import { OrderListQueries } from './orders/list.queries.js';
import { LineMatching } from './orders/matching.js';
import { OrdersController } from './orders/orders.controller.js';
import { OrdersQueries } from './orders/orders.queries.js';
import { OrdersService } from './orders/orders.service.js';
import { TypedOrders } from './orders/typed.service.js';
import { Undoing } from './orders/undoing.js';
import { OrderWriter } from './orders/writer.js';
import { PackingController } from './packing/packing.controller.js';
import { PackingService } from './packing/packing.service.js';
import { ParcelsController } from './parcels/parcels.controller.js';
import { ParcelsQueries } from './parcels/parcels.queries.js';
import { PurchaseService } from './parcels/purchase.service.js';
import { AccessGuard } from './people/access.guard.js';
import { PeopleController } from './people/people.controller.js';
import { PeopleService } from './people/people.service.js';
import { PeopleDesk } from './people/peopleDesk.service.js';
import { PickingController } from './picking/picking.controller.js';
import { PickingQueries } from './picking/picking.queries.js';
import { PickingService } from './picking/picking.service.js';
import { ListRelease } from './picking/release.js';
import { PrintingController } from './printing/printing.controller.js';
import { PrintingService } from './printing/printing.service.js';
import { TagPrinting } from './printing/tags.service.js';
import { PaperTemplates } from './printing/templates.service.js';
import { RatingService } from './rating/rating.service.js';
import { PurchaseOrders } from './receiving/purchaseOrders.service.js';
import { ReceivingController } from './receiving/receiving.controller.js';
import { Receiving } from './receiving/receiving.service.js';
import { ScansService } from './scans/scans.service.js';
import { Opening } from './setup/opening.service.js';
import { SetupController } from './setup/setup.controller.js';
import { StockCorrections } from './stock/corrections.service.js';
import { Lots } from './stock/lots.service.js';
import { Places } from './stock/places.service.js';
import { PutAway } from './stock/putAway.service.js';
import { StockController } from './stock/stock.controller.js';
import { StockQueries } from './stock/stock.queries.js';
import { StockService } from './stock/stock.service.js';
import { StockDesk } from './stock/stockDesk.service.js';

/** What an installation is made with. */
export interface Surroundings {
  source: DataSource;
  carriers: Carrier[];
  /** Folder of the built web pages; none in server tests. */
  web?: string;
}

const CONTROLLERS = [
  PeopleController,
  OrdersController,
  PrintingController,
  ImportsController,
  CatalogController,
  KitsController,
  StockController,
  ReceivingController,
  ChannelsController,
  PickingController,
  PackingController,
  ParcelsController,
  DeparturesController,
  FindController,
  LiveController,
  JobsController,
  SetupController,
];
const SERVICES = [
  Db,
  HouseService,
  Leases,
  Rounds,
  PeopleService,
  PeopleDesk,
  Opening,
  CatalogService,
  StockService,
  DeparturePlanner,
  LineMatching,
  OrderChecks,
  OrderWriter,
  DuplicateSearch,
  Undoing,
  StockCorrections,
  Lots,
  Places,
  PutAway,
  StockQueries,
  StockDesk,
  Recipes,
  KitsQueries,
  Builds,
  BuildsQueries,
  PurchaseOrders,
  Receiving,
  OrderIntake,
  OrderEditing,
  OrdersService,
  TypedOrders,
  OrderListQueries,
  DeskService,
  ProductsService,
  StockForSale,
  ListingsService,
  ListingsQueries,
  OrdersImport,
  ProductsImport,
  ListingsImport,
  RecipesImport,
  StockImport,
  PlacesImport,
  PurchasesImport,
  ExportsService,
  ChannelsService,
  OrdersQueries,
  ImportsService,
  ScansService,
  ListRelease,
  PickingService,
  PickingQueries,
  PackingService,
  ParcelsQueries,
  RatingService,
  PurchaseService,
  PaperTemplates,
  TagPrinting,
  PrintingService,
  BoardQueries,
  HandoverService,
  Telling,
  HeldOrders,
  FindService,
  LiveService,
  JobsService,
  PackedPast,
  DemoLoader,
];

@Module({})
export class AppModule {
  static with(around: Surroundings): DynamicModule {
    return {
      module: AppModule,
      controllers: CONTROLLERS,
      providers: [
        ...SERVICES,
        { provide: DataSource, useValue: around.source },
        { provide: CARRIERS, useValue: new Map(around.carriers.map(c => [c.code, c])) },
        { provide: APP_GUARD, useClass: AccessGuard },
        { provide: APP_FILTER, useClass: ProblemFilter },
      ],
    };
  }
}

/** Makes the application, not yet listening. */
export async function makeApp(around: Surroundings): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(around), {
    bodyParser: false,
    forceCloseConnections: true,
    logger: ['error', 'warn'],
    abortOnError: false,
  });
  app.set('etag', false);
  app.use(
    helmet({
      hsts: false,
      contentSecurityPolicy: {
        directives: {
          'script-src': ["'self'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'upgrade-insecure-requests': null,
        },
      },
    }),
  );
  app.use(
    compression({
      filter: (request: Request, response: Response) =>
        !request.url.includes('/live') && compression.filter(request, response),
    }),
  );
  // Addresses and protocol that a proxy tells are believed of those named here; on loopback by default.
  app.set('trust proxy', process.env.AUK_PROXY ?? 'loopback');
  app.use(cookieParser());
  const people = app.get(PeopleService);
  app.use(
    '/api/v1',
    refuseStrangers(token => people.byToken(token)),
  );
  app.use(
    OPEN_PATHS.map(path => `/api/v1${path}`),
    express.json({ limit: '4kb' }),
  );
  app.use('/api/v1/imports', express.raw({ type: () => true, limit: '20mb' }));
  app.use(/^\/api\/v1\/products\/[^/]+\/picture$/, express.raw({ type: () => true, limit: '3mb' }));
  app.use(express.json({ limit: '256kb' }));
  app.setGlobalPrefix('api/v1');
  if (around.web) servePages(app, around.web);
  return app;
}

/** Built pages: hashed assets for a year; every other address that a browser opens gets the one page. */
function servePages(app: NestExpressApplication, folder: string): void {
  const page = join(folder, 'index.html');
  app.use(
    '/assets',
    express.static(join(folder, 'assets'), { maxAge: '1y', immutable: true, fallthrough: false }),
  );
  app.use(express.static(folder, { index: false }));
  app.use((request: Request, response: Response, next: NextFunction) => {
    const browses = request.method === 'GET' && !request.path.startsWith('/api') && request.accepts('html');
    if (browses && existsSync(page)) response.setHeader('cache-control', 'no-cache').sendFile(page);
    else next();
  });
}
