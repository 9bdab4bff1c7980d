import { Module } from '@nestjs/common';
import { APP_GUARD } from '@nestjs/core';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module.js';
import { LeasesModule } from '../leases/leases.module.js';
import { AccessGuard } from './access.guard.js';
import { PeopleController } from './people.controller.js';
import { PeopleService } from './people.service.js';
import { PeopleDesk } from './peopleDesk.service.js';
import { Person } from './person.entity.js';
import { SignedIn } from './signedIn.entity.js';
import { SignInTry } from './signInTry.entity.js';

export { hashPin, PeopleService } from './people.service.js';
export { PeopleDesk } from './peopleDesk.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([Person, SignInTry, SignedIn]), HouseModule, LeasesModule],
  controllers: [PeopleController],
  providers: [PeopleService, PeopleDesk, { provide: APP_GUARD, useClass: AccessGuard }],
  exports: [PeopleService, PeopleDesk],
})
export class PeopleModule {}
