import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CarriersModule } from '../carriers/carriers.module.js';
import { ElsewhereModule } from '../elsewhere/elsewhere.module.js';
import { HouseModule } from '../house/house.module.js';
import { IntakeModule } from '../intake/intake.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { LabelsModule } from '../labels/labels.module.js';
import { MailsModule } from '../mails/mails.module.js';
import { OrdersModule } from '../orders/orders.module.js';
import { PackingModule } from '../packing/packing.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RatingModule } from '../rating/rating.module.js';
import { RecordsModule } from '../records/records.module.js';
import { TimetableModule } from '../timetable/timetable.module.js';
import { RuleActing } from './acting.service.js';
import { RuleBooks } from './books.service.js';
import { RuleButtons } from './buttons.service.js';
import { Deciding } from './deciding.service.js';
import { Deeds } from './deeds.service.js';
import { Dividing } from './dividing.service.js';
import { DryRun } from './dryRun.entity.js';
import { DryRuns } from './dryRuns.service.js';
import { RuleGrounds } from './grounds.service.js';
import { RuleMoments } from './moments.service.js';
import { RuleNames } from './names.service.js';
import { Preparing } from './preparing.service.js';
import { RuleBookRow } from './ruleBook.entity.js';
import { RuleDeed } from './ruleDeed.entity.js';
import { RuleOutcome } from './ruleOutcome.entity.js';
import { RulesController } from './rules.controller.js';
import { SpendDay } from './spendDay.entity.js';
import { Spending } from './spending.service.js';
import { Unattended } from './unattended.entity.js';
import { UnattendedBuying } from './unattended.service.js';
import { RuleWhy } from './why.service.js';

export type { StoredGround } from './acting.service.js';
export { RuleBooks } from './books.service.js';
export { RuleMoments } from './moments.service.js';
export { otherOutcomes } from './recompute.js';
export { Spending } from './spending.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([DryRun, RuleBookRow, RuleDeed, RuleOutcome, SpendDay, Unattended]),
    HouseModule,
    CarriersModule,
    ProductsModule,
    RecordsModule,
    TimetableModule,
    IntakeModule,
    OrdersModule,
    RatingModule,
    JobsModule,
    LabelsModule,
    PackingModule,
    ElsewhereModule,
    MailsModule,
  ],
  controllers: [RulesController],
  providers: [
    RuleActing,
    RuleBooks,
    RuleButtons,
    Preparing,
    Deciding,
    Deeds,
    Dividing,
    DryRuns,
    RuleGrounds,
    RuleMoments,
    RuleNames,
    RuleWhy,
    Spending,
    UnattendedBuying,
  ],
  exports: [RuleBooks, RuleMoments, Spending],
})
export class RulesModule {}
