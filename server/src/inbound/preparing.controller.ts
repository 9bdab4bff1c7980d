import {
  fromCore,
  Id,
  type Judged,
  judgedOf,
  OpenedPreparing,
  OpenPreparing,
  type Person,
  ScanIn,
  ToPrepareRow,
} from '@auk/contract';
import type { PrepareState } from '@auk/core';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { InboundPreparing } from './preparing.service.js';

@Controller('preparing')
export class PreparingController {
  constructor(private readonly preparing: InboundPreparing) {}

  /** Shipments of which units are still to be prepared by us. */
  @Get()
  @May('inbound.prepare')
  @Answers(z.array(ToPrepareRow))
  waiting(): Promise<ToPrepareRow[]> {
    return this.preparing.waiting();
  }

  @Post('open')
  @HttpCode(200)
  @May('inbound.prepare')
  @Takes({ body: OpenPreparing })
  @Answers(OpenedPreparing)
  open(@Body() body: unknown, @Me() me: Person): Promise<OpenedPreparing> {
    return this.preparing.open(parse(OpenPreparing, body), by(me));
  }

  @Post('sessions/:id/scans')
  @HttpCode(200)
  @May('inbound.prepare')
  @Takes({ body: ScanIn })
  @Answers(judgedOf(fromCore<PrepareState>()))
  scan(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<Judged<PrepareState>> {
    return this.preparing.scan(parse(Id, id), parse(ScanIn, body), by(me));
  }
}
