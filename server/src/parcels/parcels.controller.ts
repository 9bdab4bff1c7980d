import type { ParcelListRow } from '@auk/contract';
import { Controller, Get } from '@nestjs/common';
import { SignedIn } from '../http/access.js';
import { ParcelsQueries } from './parcels.queries.js';

@Controller('parcels')
export class ParcelsController {
  constructor(private readonly queries: ParcelsQueries) {}

  @Get()
  @SignedIn()
  list(): Promise<ParcelListRow[]> {
    return this.queries.list();
  }
}
