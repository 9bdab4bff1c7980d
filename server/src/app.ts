import 'reflect-metadata';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { type DynamicModule, Module } from '@nestjs/common';
import { APP_FILTER, APP_INTERCEPTOR, NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import compression from 'compression';
import cookieParser from 'cookie-parser';
import express, { type NextFunction, type Request, type Response } from 'express';
import packedStatic from 'express-static-gzip';
import helmet from 'helmet';
import type { DataSource } from 'typeorm';
import { BenchesModule } from './benches/benches.module.js';
import { BuyersModule } from './buyers/buyers.module.js';
import { CarriersModule } from './carriers/carriers.module.js';
import { CatalogModule } from './catalog/catalog.module.js';
import { ChannelsModule } from './channels/channels.module.js';
import { CorrectionsModule } from './corrections/corrections.module.js';
import { CostsModule } from './costs/costs.module.js';
import { DatabaseModule } from './database/database.module.js';
import { DemoModule } from './demo/demo.module.js';
import { DeparturesModule } from './departures/departures.module.js';
import { DocsModule } from './docs/docs.module.js';
import { ElsewhereModule } from './elsewhere/elsewhere.module.js';
import { FindModule } from './find/find.module.js';
import { HouseModule } from './house/house.module.js';
import { AnswersInterceptor } from './http/answers.interceptor.js';
import { ProblemFilter } from './http/filter.js';
import { OPEN_PATHS, refuseStrangers } from './http/strangers.js';
import { answerUnreadable } from './http/unreadable.js';
import { ImportsModule } from './imports/imports.module.js';
import { InboundModule } from './inbound/inbound.module.js';
import { IntakeModule } from './intake/intake.module.js';
import { JobsModule } from './jobs/jobs.module.js';
import { KitsModule } from './kits/kits.module.js';
import { LabelsModule } from './labels/labels.module.js';
import type { Tls } from './lan/certificate.js';
import { LeasesModule } from './leases/leases.module.js';
import { ListsModule } from './lists/lists.module.js';
import { LiveModule } from './live/live.module.js';
import { MailsModule } from './mails/mails.module.js';
import { OrdersModule } from './orders/orders.module.js';
import { PackingModule } from './packing/packing.module.js';
import { ParcelsModule } from './parcels/parcels.module.js';
import { PeopleModule, PeopleService } from './people/people.module.js';
import { PickingModule } from './picking/picking.module.js';
import { PlanningModule } from './planning/planning.module.js';
import { PrintingModule } from './printing/printing.module.js';
import { ProductsModule } from './products/products.module.js';
import { RatingModule } from './rating/rating.module.js';
import { ReceivingModule } from './receiving/receiving.module.js';
import { RecordsModule } from './records/records.module.js';
import { ReservationsModule } from './reservations/reservations.module.js';
import { ReturnsModule } from './returns/returns.module.js';
import { RulesModule } from './rules/rules.module.js';
import { ScansModule } from './scans/scans.module.js';
import { SetupModule } from './setup/setup.module.js';
import { SortingModule } from './sorting/sorting.module.js';
import { StockModule } from './stock/stock.module.js';
import { TimetableModule } from './timetable/timetable.module.js';
import { TrackingModule } from './tracking/tracking.module.js';
import { UpkeepModule } from './upkeep/upkeep.module.js';

/** What an installation is made with. */
export interface Surroundings {
  source: DataSource;
  /** Checks every answer against its form of the contract, as tests do. */
  checkAnswers?: boolean;
  /** Folder of the built web pages; none in server tests. */
  web?: string;
  /** What it shows over TLS; without it Auk serves plainly, on loopback. */
  tls?: Tls;
}

const MODULES = [
  LeasesModule,
  HouseModule,
  PeopleModule,
  LiveModule,
  JobsModule,
  CarriersModule,
  StockModule,
  ProductsModule,
  ListsModule,
  TimetableModule,
  RecordsModule,
  ReservationsModule,
  IntakeModule,
  CatalogModule,
  CorrectionsModule,
  ParcelsModule,
  OrdersModule,
  RatingModule,
  PrintingModule,
  BenchesModule,
  LabelsModule,
  ChannelsModule,
  MailsModule,
  TrackingModule,
  DeparturesModule,
  ScansModule,
  PickingModule,
  SortingModule,
  PlanningModule,
  PackingModule,
  KitsModule,
  ReceivingModule,
  ImportsModule,
  ElsewhereModule,
  InboundModule,
  FindModule,
  SetupModule,
  UpkeepModule,
  BuyersModule,
  ReturnsModule,
  CostsModule,
  RulesModule,
  DemoModule,
  DocsModule,
];

@Module({})
export class AppModule {
  static with(around: Surroundings): DynamicModule {
    return {
      module: AppModule,
      imports: [DatabaseModule.of(around.source), ...MODULES],
      providers: [
        { provide: APP_FILTER, useClass: ProblemFilter },
        ...(around.checkAnswers ? [{ provide: APP_INTERCEPTOR, useClass: AnswersInterceptor }] : []),
      ],
    };
  }
}

/** In a house's own network an answer of so many bytes is sent sooner than it is squeezed. */
const SHORT_BYTES = 16_384;

/** Makes the application, not yet listening. */
export async function makeApp(around: Surroundings): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(around), {
    bodyParser: false,
    forceCloseConnections: true,
    logger: ['error', 'warn'],
    abortOnError: false,
    ...(around.tls && { httpsOptions: { key: around.tls.key, cert: around.tls.cert } }),
  });
  app.set('etag', false);
  // Longer than browsers and balancers keep a connection that nothing is said on: whoever closes it, asks again; a server must not.
  app.getHttpServer().keepAliveTimeout = 75_000;
  app.getHttpServer().on('clientError', answerUnreadable);
  app.use(
    helmet({
      hsts: false,
      contentSecurityPolicy: {
        directives: {
          // The reader of the camera is compiled in the browser; nothing else is.
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
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
        !request.url.includes('/live') &&
        !(request.url.startsWith('/api/') && Number(response.getHeader('content-length')) < SHORT_BYTES) &&
        compression.filter(request, response),
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
  readBodies(app);
  app.setGlobalPrefix('api/v1', { exclude: ['api/docs', 'api/docs/openapi.json'] });
  const authority = around.tls?.authority;
  // What a phone is told to trust, once.
  if (authority)
    app.use('/authority.crt', (_: Request, response: Response) =>
      response.type('application/x-x509-ca-cert').send(authority),
    );
  if (around.web) servePages(app, around.web);
  return app;
}

/** How much of what is sent is read, and as what: before sign-in little, files whole, the rest as JSON. */
function readBodies(app: NestExpressApplication): void {
  app.use(
    OPEN_PATHS.map(path => `/api/v1${path}`),
    express.json({ limit: '4kb' }),
  );
  app.use('/api/v1/buyers', express.json({ limit: '12kb' }));
  app.use('/api/v1/imports', express.raw({ type: () => true, limit: '20mb' }));
  app.use(
    /^\/api\/v1\/packing\/sessions\/[^/]+\/photos\/[^/]+$/,
    express.raw({ type: () => true, limit: '3mb' }),
  );
  app.use(/^\/api\/v1\/carriers\/accounts\/[^/]+\/sheets$/, express.raw({ type: () => true, limit: '3mb' }));
  app.use(/^\/api\/v1\/mails\/brands\/[^/]+\/logo$/, express.raw({ type: () => true, limit: '300kb' }));
  app.use(/^\/api\/v1\/costs\/bills$/, express.raw({ type: () => true, limit: '5mb' }));
  app.use(/^\/api\/v1\/products\/[^/]+\/picture$/, express.raw({ type: () => true, limit: '3mb' }));
  // A rule book comes whole.
  app.use('/api/v1/rules', express.json({ limit: '3mb' }));
  app.use(express.json({ limit: '256kb' }));
}

/** Built pages: hashed assets for a year, as the build packed them; every other address that a browser opens gets the one page. */
function servePages(app: NestExpressApplication, folder: string): void {
  const page = join(folder, 'index.html');
  app.use(
    '/assets',
    packedStatic(join(folder, 'assets'), {
      enableBrotli: true,
      orderPreference: ['br'],
      serveStatic: { maxAge: '1y', immutable: true, fallthrough: false },
    }),
  );
  app.use(express.static(folder, { index: false }));
  app.use((request: Request, response: Response, next: NextFunction) => {
    const browses = request.method === 'GET' && !request.path.startsWith('/api') && request.accepts('html');
    if (browses && existsSync(page)) response.setHeader('cache-control', 'no-cache').sendFile(page);
    else next();
  });
}
