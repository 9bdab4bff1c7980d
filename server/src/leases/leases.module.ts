import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { Lease } from './lease.entity.js';
import { Leases } from './leases.service.js';
import { Rounds } from './rounds.service.js';

export { type Lease, LeaseLost, Leases } from './leases.service.js';
export { Rounds, type Turn } from './rounds.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([Lease])],
  providers: [Leases, Rounds],
  exports: [Leases, Rounds],
})
export class LeasesModule {}
