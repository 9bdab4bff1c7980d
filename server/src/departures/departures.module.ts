import { Module } from '@nestjs/common';
import { CarriersModule } from '../carriers/carriers.module.js';
import { ChannelsModule } from '../channels/channels.module.js';
import { HouseModule } from '../house/house.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { LabelsModule } from '../labels/labels.module.js';
import { MailsModule } from '../mails/mails.module.js';
import { ParcelsModule } from '../parcels/parcels.module.js';
import { PlanningModule } from '../planning/planning.module.js';
import { PrintingModule } from '../printing/printing.module.js';
import { RecordsModule } from '../records/records.module.js';
import { ScansModule } from '../scans/scans.module.js';
import { StockModule } from '../stock/stock.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { TrackingModule } from '../tracking/tracking.module.js';
import { BoardQueries } from './board.queries.js';
import { Collecting } from './collecting.service.js';
import { Collections } from './collections.service.js';
import { CutOffs } from './cutOffs.service.js';
import { DeparturesController } from './departures.controller.js';
import { HandoverService } from './handover.service.js';
import { NeedsQueries } from './needs.queries.js';
import { Telling } from './telling.service.js';

export { HandoverService } from './handover.service.js';

@Module({
  imports: [
    HouseModule,
    CarriersModule,
    JobsModule,
    ChannelsModule,
    StockModule,
    LabelsModule,
    ParcelsModule,
    RecordsModule,
    ScansModule,
    TimetableModule,
    PrintingModule,
    PlanningModule,
    MailsModule,
    TrackingModule,
  ],
  controllers: [DeparturesController],
  providers: [HandoverService, Telling, BoardQueries, NeedsQueries, Collections, Collecting, CutOffs],
  exports: [HandoverService],
})
export class DeparturesModule {}
