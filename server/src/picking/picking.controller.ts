import {
  can,
  FloorChoices,
  FloorTroubles,
  fromCore,
  HandList,
  Id,
  type Judged,
  judgedOf,
  ListPapersQuery,
  ListRow,
  ListView,
  MadeNo,
  OpenBench,
  OpenedList,
  type Person,
  Picker,
  PlanList,
  ScanIn,
  TakeNext,
} from '@auk/contract';
import type { PickState } from '@auk/core';
import { Body, Controller, Get, HttpCode, Param, Post, Query, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { PrintingService } from '../printing/printing.module.js';
import { FloorChoice } from './floorChoice.service.js';
import { FloorTroubles as Troubles } from './floorTroubles.service.js';
import { PickingQueries } from './picking.queries.js';
import { PickingService } from './picking.service.js';

const ListNo = z
  .string()
  .regex(/^PL-\d{1,9}$/i, 'is not the code of a pick list')
  .transform(s => Number(s.slice(3)));
@Controller('picking')
export class PickingController {
  constructor(
    private readonly queries: PickingQueries,
    private readonly picking: PickingService,
    private readonly printing: PrintingService,
    private readonly floor: FloorChoice,
    private readonly troubles: Troubles,
  ) {}

  @Get('lists')
  @SignedIn()
  @Answers(z.array(ListRow))
  lists(): Promise<ListRow[]> {
    return this.queries.lists();
  }

  /** Lists, slips and place labels in one document. */
  @Get('papers.pdf')
  @SignedIn()
  @Takes({ query: ListPapersQuery })
  @Answers('file')
  async papers(@Query() query: unknown, @Res() response: Response): Promise<void> {
    const { lists, papers } = parse(ListPapersQuery, query);
    const of = await this.queries.withOrders(lists);
    response.type('application/pdf').send(await this.printing.listPapers(of, papers));
  }

  @Get('lists/:no')
  @SignedIn()
  @Answers(ListView)
  list(@Param('no') no: string): Promise<ListView> {
    return this.queries.list(parse(ListNo, no));
  }

  @Get('lists/:no/sheet.pdf')
  @SignedIn()
  @Answers('file')
  async sheet(@Param('no') no: string, @Res() response: Response): Promise<void> {
    const pdf = await this.printing.pickList(await this.queries.list(parse(ListNo, no)));
    response.type('application/pdf').send(pdf);
  }

  @Post('lists')
  @HttpCode(200)
  @May('lists.release')
  @Takes({ body: PlanList })
  @Answers(MadeNo)
  async release(@Body() body: unknown, @Me() me: Person): Promise<{ no: string }> {
    return { no: `PL-${(await this.picking.release(parse(PlanList, body), by(me))).no}` };
  }

  @Get('choices')
  @SignedIn()
  @Answers(FloorChoices)
  choices(): Promise<FloorChoices> {
    return this.floor.of();
  }

  /** What pickers see and what follows, for walks that begin from now on. */
  @Post('choices')
  @HttpCode(200)
  @May('floor.choose')
  @Takes({ body: FloorChoices })
  @Answers('nothing')
  setChoices(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.floor.set(parse(FloorChoices, body), by(me));
  }

  @Get('troubles')
  @May('lists.release')
  @Answers(FloorTroubles)
  troublesOfLate(): Promise<FloorTroubles> {
    return this.troubles.list();
  }

  @Get('pickers')
  @May('lists.release')
  @Answers(z.array(Picker))
  pickers(): Promise<Picker[]> {
    return this.queries.pickers();
  }

  @Post('lists/:no/hand')
  @HttpCode(200)
  @May('lists.release')
  @Takes({ body: HandList })
  @Answers('nothing')
  async hand(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    await this.picking.hand(parse(ListNo, no), parse(HandList, body).personId, by(me));
  }

  @Post('next')
  @HttpCode(200)
  @May('pick')
  @Takes({ body: TakeNext })
  @Answers(OpenedList)
  next(@Body() body: unknown, @Me() me: Person): Promise<OpenedList> {
    return this.picking.next(parse(TakeNext, body).device, by(me));
  }

  @Post('open')
  @HttpCode(200)
  @May('pick')
  @Takes({ body: OpenBench })
  @Answers(OpenedList)
  open(@Body() body: unknown, @Me() me: Person): Promise<OpenedList> {
    const { code, device } = parse(OpenBench, body);
    return this.picking.open(code, device, by(me));
  }

  @Post('sessions/:id/scans')
  @HttpCode(200)
  @May('pick')
  @Takes({ body: ScanIn })
  @Answers(judgedOf(fromCore<PickState>()))
  scan(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<Judged<PickState>> {
    return this.picking.scan(parse(Id, id), parse(ScanIn, body), by(me), can(me, 'pick.by-hand'));
  }
}
