import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LeasesModule } from '../leases/leases.module.js';
import { Counter } from './counter.entity.js';
import { LiveController } from './live.controller.js';
import { LiveService } from './live.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([Counter]), LeasesModule],
  controllers: [LiveController],
  providers: [LiveService],
})
export class LiveModule {}
