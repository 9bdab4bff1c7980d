import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { ScanEvent } from './scanEvent.entity.js';
import { ScanSession } from './scanSession.entity.js';
import { ScansService } from './scans.service.js';

export { type Judgement, type Knowing, ScansService } from './scans.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([ScanEvent, ScanSession])],
  providers: [ScansService],
  exports: [ScansService],
})
export class ScansModule {}
