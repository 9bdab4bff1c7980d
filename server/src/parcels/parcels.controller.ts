import { ParcelListRow, ParcelView } from '@auk/contract';
import { Controller, Get, Param, Query } from '@nestjs/common';
import { z } from 'zod';
import { SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { ParcelNo } from './parcelNo.js';
import { ParcelsQueries } from './parcels.queries.js';

const ParcelsQuery = z.object({ look: ParcelNo.optional() });

@Controller('parcels')
export class ParcelsController {
  constructor(private readonly queries: ParcelsQueries) {}

  @Get()
  @SignedIn()
  @Takes({ query: ParcelsQuery })
  @Answers(z.array(ParcelListRow))
  list(@Query() query: unknown): Promise<ParcelListRow[]> {
    return this.queries.list(parse(ParcelsQuery, query).look);
  }

  @Get(':no')
  @SignedIn()
  @Answers(ParcelView)
  view(@Param('no') no: string): Promise<ParcelView> {
    return this.queries.view(parse(ParcelNo, no));
  }
}
