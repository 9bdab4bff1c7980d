import { ParcelListRow, ParcelView } from '@auk/contract';
import { Controller, Get, Param } from '@nestjs/common';
import { z } from 'zod';
import { SignedIn } from '../http/access.js';
import { Answers } from '../http/api.js';
import { parse } from '../http/parse.js';
import { ParcelNo } from './parcelNo.js';
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

  @Get(':no')
  @SignedIn()
  @Answers(ParcelView)
  view(@Param('no') no: string): Promise<ParcelView> {
    return this.queries.view(parse(ParcelNo, no));
  }
}
