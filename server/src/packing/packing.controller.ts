import {
  ArrivedRow,
  BenchView,
  can,
  fromCore,
  Id,
  type Judged,
  judgedOf,
  OpenBench,
  type Person,
  PhotoQuery,
  PhotoRow,
  QueueRow,
  ScanIn,
} from '@auk/contract';
import type { PackState } from '@auk/core';
import { Body, Controller, Get, Header, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn, type SignedRequest } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Malformed } from '../http/problem.js';
import { PackingService } from './packing.service.js';
import { Photos } from './photos.service.js';

const ParcelNo = z.string().min(1).max(20);

@Controller()
export class PackingController {
  constructor(
    private readonly packing: PackingService,
    private readonly photos: Photos,
  ) {}

  @Post('packing/open')
  @HttpCode(200)
  @May('pack')
  @Takes({ body: OpenBench })
  @Answers(BenchView)
  open(@Body() body: unknown, @Me() me: Person): Promise<BenchView> {
    const { code, device } = parse(OpenBench, body);
    return this.packing.open(code, device, by(me));
  }

  @Post('packing/parcels/:no/open')
  @HttpCode(200)
  @May('parcels.open')
  @Answers('nothing')
  reopen(@Param('no') no: string, @Me() me: Person): Promise<void> {
    return this.packing.reopen(parse(ParcelNo, no), by(me));
  }

  @Get('packing/arrived')
  @May('pack')
  @Answers(z.array(ArrivedRow))
  arrived(): Promise<ArrivedRow[]> {
    return this.packing.arrived();
  }

  @Get('packing/queue')
  @May('pack')
  @Answers(z.array(QueueRow))
  queue(): Promise<QueueRow[]> {
    return this.packing.queue();
  }

  @Get('packing/sessions/:id')
  @May('pack')
  @Answers(BenchView)
  view(@Param('id') id: string): Promise<BenchView> {
    return this.packing.view(parse(Id, id));
  }

  @Post('packing/sessions/:id/scans')
  @HttpCode(200)
  @May('pack')
  @Takes({ body: ScanIn })
  @Answers(judgedOf(fromCore<PackState>()))
  scan(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<Judged<PackState>> {
    return this.packing.scan(parse(Id, id), parse(ScanIn, body), by(me), {
      byHand: can(me, 'pack.by-hand'),
      all: can(me, 'pack.all'),
    });
  }

  /** Keeps a picture of the open box; the body is the picture itself, its id is the device's own. */
  @Post('packing/sessions/:id/photos/:photo')
  @HttpCode(200)
  @May('pack')
  @Takes({ query: PhotoQuery })
  @Answers('nothing')
  keepPhoto(
    @Param('id') id: string,
    @Param('photo') photo: string,
    @Query() query: unknown,
    @Req() request: SignedRequest,
    @Me() me: Person,
  ): Promise<void> {
    if (!Buffer.isBuffer(request.body))
      throw new Malformed('The photo must be sent as a file', 'Take the photo again.');
    const taken = { id: parse(Id, photo), ...parse(PhotoQuery, query) };
    return this.photos.keep(parse(Id, id), taken, request.body, by(me));
  }

  @Get('orders/:id/photos')
  @SignedIn()
  @Answers(z.array(PhotoRow))
  photosOf(@Param('id') id: string): Promise<PhotoRow[]> {
    return this.photos.of(parse(Id, id));
  }

  @Get('photos/:id')
  @SignedIn()
  @Header('cache-control', 'private, max-age=31536000, immutable')
  @Header('x-content-type-options', 'nosniff')
  @Answers('file')
  async photo(@Param('id') id: string, @Res() response: Response): Promise<void> {
    response.type('image/jpeg').send(await this.photos.file(parse(Id, id)));
  }
}
