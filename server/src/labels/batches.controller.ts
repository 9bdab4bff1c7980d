import { BatchView, BeginBatch, BuyBatch, Id, LabelPaper, MadeId, type Person } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query, Res } from '@nestjs/common';
import type { Response } from 'express';
import { by, May, Me } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { PrintingService } from '../printing/printing.module.js';
import { Batches } from './batches.service.js';

@Controller('labels/batches')
export class BatchesController {
  constructor(
    private readonly batches: Batches,
    private readonly printing: PrintingService,
  ) {}

  /** Begins a batch; its parcels are priced by a job. */
  @Post()
  @HttpCode(200)
  @May('labels.batch')
  @Takes({ body: BeginBatch })
  @Answers(MadeId)
  async begin(@Body() body: unknown, @Me() me: Person): Promise<{ id: string }> {
    const nos = parse(BeginBatch, body).parcels.map(p => Number(p.slice(3)));
    return { id: await this.batches.begin([...new Set(nos)], by(me)) };
  }

  @Get(':id')
  @May('labels.batch')
  @Answers(BatchView)
  view(@Param('id') id: string): Promise<BatchView> {
    return this.batches.view(parse(Id, id));
  }

  @Post(':id/buy')
  @HttpCode(200)
  @May('labels.batch')
  @Takes({ body: BuyBatch })
  @Answers(BatchView)
  async buy(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<BatchView> {
    await this.batches.buy(parse(Id, id), parse(BuyBatch, body).minor, by(me));
    return this.batches.view(id);
  }

  @Post(':id/stop')
  @HttpCode(200)
  @May('labels.batch')
  @Answers(BatchView)
  async stop(@Param('id') id: string, @Me() me: Person): Promise<BatchView> {
    await this.batches.stop(parse(Id, id), by(me));
    return this.batches.view(id);
  }

  /** All labels that were bought in it as one document. */
  @Get(':id/labels.pdf')
  @May('labels.print')
  @Takes({ query: LabelPaper })
  @Answers('file')
  async labels(@Param('id') id: string, @Query() query: unknown, @Res() response: Response): Promise<void> {
    const { paper } = parse(LabelPaper, query);
    const nos = await this.batches.bought(parse(Id, id));
    response.type('application/pdf').send(await this.printing.labels(nos, paper));
  }
}
