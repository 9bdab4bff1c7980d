import { TrackView } from '@auk/contract';
import { Controller, Get, Param } from '@nestjs/common';
import { SignedIn } from '../http/access.js';
import { Answers } from '../http/api.js';
import { parse } from '../http/parse.js';
import { ParcelNo } from '../parcels/parcels.module.js';
import { Tracking } from './tracking.service.js';

@Controller('parcels')
export class TrackingController {
  constructor(private readonly tracking: Tracking) {}

  @Get(':no/way')
  @SignedIn()
  @Answers(TrackView)
  way(@Param('no') no: string): Promise<TrackView> {
    return this.tracking.of(parse(ParcelNo, no));
  }
}
