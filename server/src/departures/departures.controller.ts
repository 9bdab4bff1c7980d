import {
  Board,
  CancelDeparture,
  CloseDeparture,
  CollectionIn,
  FollowsQuery,
  FollowsView,
  HandoverJudged,
  HandoverView,
  Id,
  type Judged,
  MoveCutOff,
  type Person,
  ScanIn,
  Strip,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { PrintingService } from '../printing/printing.module.js';
import { BoardQueries } from './board.queries.js';
import { Collecting } from './collecting.service.js';
import { Collections } from './collections.service.js';
import { CutOffs } from './cutOffs.service.js';
import { HandoverService } from './handover.service.js';

const DepartureNo = z
  .string()
  .regex(/^DE-\d{1,9}$/i, 'is not the code of a departure')
  .transform(s => Number(s.slice(3)));

const CarrierCode = z.string().min(1).max(30);

@Controller('departures')
export class DeparturesController {
  constructor(
    private readonly queries: BoardQueries,
    private readonly handovers: HandoverService,
    private readonly printing: PrintingService,
    private readonly collections: Collections,
    private readonly cutOffs: CutOffs,
    private readonly collecting: Collecting,
  ) {}

  @Get('board')
  @SignedIn()
  @Answers(Board)
  board(): Promise<Board> {
    return this.queries.board(new Date());
  }

  @Get('strip')
  @SignedIn()
  @Answers(Strip)
  strip(): Promise<Strip> {
    return this.queries.strip(new Date());
  }

  @Get(':no')
  @SignedIn()
  @Answers(HandoverView)
  handover(@Param('no') no: string): Promise<HandoverView> {
    return this.queries.handover(parse(DepartureNo, no));
  }

  @Get(':no/sheet.pdf')
  @SignedIn()
  @Answers('file')
  async sheet(@Param('no') no: string, @Res() response: Response): Promise<void> {
    response
      .type('application/pdf')
      .send(await this.printing.handover(await this.queries.handover(parse(DepartureNo, no))));
  }

  /** What would follow of a cut-off that is moved, or of a collection that does not come. */
  @Get(':no/follows')
  @May('departures.cancel')
  @Takes({ query: FollowsQuery })
  @Answers(FollowsView)
  follows(@Param('no') no: string, @Query() query: unknown): Promise<FollowsView> {
    const { cutOff } = parse(FollowsQuery, query);
    return this.cutOffs.follows(parse(DepartureNo, no), cutOff ? new Date(cutOff) : null, new Date());
  }

  @Post(':no/cut-off')
  @HttpCode(200)
  @May('departures.cancel')
  @Takes({ body: MoveCutOff })
  @Answers(HandoverView)
  async move(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<HandoverView> {
    const departure = parse(DepartureNo, no);
    await this.cutOffs.move(departure, new Date(parse(MoveCutOff, body).cutOff), by(me));
    return this.queries.handover(departure);
  }

  /** Books the collection at its carrier. */
  @Post(':no/book')
  @HttpCode(200)
  @May('handover')
  @Answers(HandoverView)
  async book(@Param('no') no: string, @Me() me: Person): Promise<HandoverView> {
    const departure = parse(DepartureNo, no);
    await this.collecting.book(departure, by(me));
    return this.queries.handover(departure);
  }

  /** Adds a collection to the week of a carrier. */
  @Post('collections/:carrier')
  @HttpCode(200)
  @May('carriers.change')
  @Takes({ body: CollectionIn })
  @Answers('nothing')
  collect(@Param('carrier') carrier: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.collections.save(parse(CarrierCode, carrier), null, parse(CollectionIn, body), by(me));
  }

  @Post('collections/:carrier/:id')
  @HttpCode(200)
  @May('carriers.change')
  @Takes({ body: CollectionIn })
  @Answers('nothing')
  recollect(
    @Param('carrier') carrier: string,
    @Param('id') id: string,
    @Body() body: unknown,
    @Me() me: Person,
  ): Promise<void> {
    return this.collections.save(
      parse(CarrierCode, carrier),
      parse(Id, id),
      parse(CollectionIn, body),
      by(me),
    );
  }

  @Post('collections/:carrier/:id/remove')
  @HttpCode(200)
  @May('carriers.change')
  @Answers('nothing')
  uncollect(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.collections.remove(parse(Id, id), by(me));
  }

  @Post(':no/scans')
  @HttpCode(200)
  @May('handover')
  @Takes({ body: ScanIn })
  @Answers(HandoverJudged)
  scan(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<Judged<HandoverView>> {
    return this.handovers.scan(parse(DepartureNo, no), parse(ScanIn, body), by(me));
  }

  @Post(':no/close')
  @HttpCode(200)
  @May('handover')
  @Takes({ body: CloseDeparture })
  @Answers(HandoverView)
  async close(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<HandoverView> {
    const departure = parse(DepartureNo, no);
    await this.handovers.close(departure, parse(CloseDeparture, body).leaveBehind, by(me));
    return this.queries.handover(departure);
  }

  @Post(':no/cancel')
  @HttpCode(200)
  @May('departures.cancel')
  @Takes({ body: CancelDeparture })
  @Answers(HandoverView)
  async cancel(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<HandoverView> {
    const departure = parse(DepartureNo, no);
    await this.handovers.cancel(departure, parse(CancelDeparture, body).reason, by(me));
    return this.queries.handover(departure);
  }
}
