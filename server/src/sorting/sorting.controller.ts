import {
  fromCore,
  HeapRow,
  Id,
  type Judged,
  judgedOf,
  OpenedHeap,
  OpenHeap,
  type Person,
  ScanIn,
} from '@auk/contract';
import type { SortState } from '@auk/core';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { SortingService } from './sorting.service.js';

@Controller('sorting')
export class SortingController {
  constructor(private readonly sorting: SortingService) {}

  @Get('heaps')
  @May('sort')
  @Answers(z.array(HeapRow))
  heaps(): Promise<HeapRow[]> {
    return this.sorting.waiting();
  }

  @Post('open')
  @HttpCode(200)
  @May('sort')
  @Takes({ body: OpenHeap })
  @Answers(OpenedHeap)
  open(@Body() body: unknown, @Me() me: Person): Promise<OpenedHeap> {
    return this.sorting.open(parse(OpenHeap, body), by(me));
  }

  @Post('sessions/:id/scans')
  @HttpCode(200)
  @May('sort')
  @Takes({ body: ScanIn })
  @Answers(judgedOf(fromCore<SortState>()))
  scan(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<Judged<SortState>> {
    return this.sorting.scan(parse(Id, id), parse(ScanIn, body), by(me));
  }
}
