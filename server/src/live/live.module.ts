import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LeasesModule } from '../leases/leases.module.js';
import { LiveController } from './live.controller.js';
import { LiveService } from './live.service.js';
import { Outbox } from './outbox.entity.js';

@Module({
  imports: [TypeOrmModule.forFeature([Outbox]), LeasesModule],
  controllers: [LiveController],
  providers: [LiveService],
})
export class LiveModule {}
