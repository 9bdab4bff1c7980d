import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { IntakeModule } from '../intake/intake.module.js';
import { JobsModule } from '../jobs/jobs.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { ProductsModule } from '../products/products.module.js';
import { RecordsModule } from '../records/records.module.js';
import { Channel } from './channel.entity.js';
import { ChannelLink } from './channelLink.entity.js';
import { ChannelsController } from './channels.controller.js';
import { ChannelsService } from './channels.service.js';
import { ChannelTrouble } from './channelTrouble.entity.js';

export { ChannelsService } from './channels.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([Channel, ChannelLink, ChannelTrouble]),
    LeasesModule,
    JobsModule,
    ProductsModule,
    RecordsModule,
    IntakeModule,
  ],
  controllers: [ChannelsController],
  providers: [ChannelsService],
  exports: [ChannelsService],
})
export class ChannelsModule {}
