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
  QueueRow,
  ScanIn,
} from '@auk/contract';
import type { PackState } from '@auk/core';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { PackingService } from './packing.service.js';

@Controller('packing')
export class PackingController {
  constructor(private readonly packing: PackingService) {}

  @Post('open')
  @HttpCode(200)
  @May('pack')
  @Takes({ body: OpenBench })
  @Answers(BenchView)
  open(@Body() body: unknown, @Me() me: Person): Promise<BenchView> {
    const { code, device } = parse(OpenBench, body);
    return this.packing.open(code, device, by(me));
  }

  @Get('arrived')
  @May('pack')
  @Answers(z.array(ArrivedRow))
  arrived(): Promise<ArrivedRow[]> {
    return this.packing.arrived();
  }

  @Get('queue')
  @May('pack')
  @Answers(z.array(QueueRow))
  queue(): Promise<QueueRow[]> {
    return this.packing.queue();
  }

  @Get('sessions/:id')
  @May('pack')
  @Answers(BenchView)
  view(@Param('id') id: string): Promise<BenchView> {
    return this.packing.view(parse(Id, id));
  }

  @Post('sessions/:id/scans')
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
}
