import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { Lists } from './lists.service.js';
import { PickList } from './pickList.entity.js';
import { PickStop } from './pickStop.entity.js';

export { Lists, type OnList } from './lists.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([PickList, PickStop])],
  providers: [Lists],
  exports: [Lists],
})
export class ListsModule {}
