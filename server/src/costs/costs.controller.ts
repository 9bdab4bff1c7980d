import {
  BillQuery,
  BillRow,
  BillTaken,
  BillView,
  CostsQuery,
  CostsView,
  Id,
  type Person,
} from '@auk/contract';
import { Controller, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import type { Response } from 'express';
import { by, May, Me, type SignedRequest } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Bills } from './bills.service.js';
import { Costs } from './costs.service.js';

@Controller('costs')
export class CostsController {
  constructor(
    private readonly costs: Costs,
    private readonly bills: Bills,
  ) {}

  @Get()
  @May('costs.see')
  @Takes({ query: CostsQuery })
  @Answers(CostsView)
  look(@Query() query: unknown): Promise<CostsView> {
    return this.costs.look(parse(CostsQuery, query), new Date());
  }

  @Get('bills')
  @May('costs.see')
  @Answers(BillRow.array())
  list(): Promise<BillRow[]> {
    return this.bills.list();
  }

  /** Takes a bill in, as CSV bytes. */
  @Post('bills')
  @HttpCode(200)
  @May('costs.see')
  @Takes({ query: BillQuery })
  @Answers(BillTaken)
  take(@Query() query: unknown, @Req() request: SignedRequest, @Me() me: Person): Promise<BillTaken> {
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    return this.bills.take(parse(BillQuery, query), bytes, by(me));
  }

  @Get('bills/:id')
  @May('costs.see')
  @Answers(BillView)
  one(@Param('id') id: string): Promise<BillView> {
    return this.bills.one(parse(Id, id));
  }

  @Get('bills/:id/claim.csv')
  @May('costs.see')
  @Answers('file')
  async claim(@Param('id') id: string, @Res() response: Response): Promise<void> {
    const { name, text } = await this.bills.claim(parse(Id, id));
    response.attachment(name).type('text/csv').send(text);
  }
}
