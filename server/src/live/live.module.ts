import { Module } from '@nestjs/common';
import { LeasesModule } from '../leases/leases.module.js';
import { LiveController } from './live.controller.js';
import { LiveService } from './live.service.js';

@Module({
  imports: [LeasesModule],
  controllers: [LiveController],
  providers: [LiveService],
})
export class LiveModule {}
