import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { RecordsModule } from '../records/records.module.js';
import { AlertWish } from './alertWish.entity.js';
import { BrandLook } from './brandLook.entity.js';
import { MailDesk } from './desk.service.js';
import { Mail } from './mail.entity.js';
import { MailsController } from './mails.controller.js';
import { Mails } from './mails.service.js';
import { MailTemplate } from './mailTemplate.entity.js';
import { MailWays } from './ways.service.js';

export { buyerToken, orderNoOf } from './buyerLink.js';
export { MailDesk } from './desk.service.js';
export { PLAIN_COLOUR } from './letter.js';
export { type MailCause, Mails } from './mails.service.js';
export { MailWays } from './ways.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([Mail, MailTemplate, BrandLook, AlertWish]),
    HouseModule,
    JobsModule,
    RecordsModule,
  ],
  controllers: [MailsController],
  providers: [Mails, MailDesk, MailWays],
  exports: [Mails, MailDesk, MailWays],
})
export class MailsModule {}
