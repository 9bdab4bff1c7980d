import { ParcelListRow } from '@auk/contract';
import { Controller, Get } from '@nestjs/common';
import { z } from 'zod';
import { SignedIn } from '../http/access.js';
import { Answers } from '../http/api.js';
import { ParcelsQueries } from './parcels.queries.js';

@Controller('parcels')
export class ParcelsController {
  constructor(private readonly queries: ParcelsQueries) {}

  @Get()
  @SignedIn()
  @Answers(z.array(ParcelListRow))
  list(): Promise<ParcelListRow[]> {
    return this.queries.list();
  }
}
