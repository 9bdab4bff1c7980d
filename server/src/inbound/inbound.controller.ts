import {
  BookIn,
  DecideDifference,
  Id,
  InboundAct,
  InboundChange,
  InboundFileAnswer,
  InboundFileIn,
  InboundFromIn,
  InboundIn,
  InboundLineIn,
  InboundNetworks,
  InboundPreparedIn,
  InboundPrice,
  InboundRow,
  InboundScanIn,
  InboundScanned,
  InboundView,
  InboundWays,
  MadeNo,
  MoveUnitsIn,
  type Person,
  PrefixIn,
  UNIT_LABEL_FORMS,
  UnitLabelQuery,
  WayIn,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { InboundBookings } from './bookings.service.js';
import { InboundBoxEdits } from './boxEdits.service.js';
import { InboundDrafts } from './drafts.service.js';
import { InboundFollowing } from './following.service.js';
import { ADVICE_FORMS, InboundPapers } from './papers.service.js';
import { InboundPreparing } from './preparing.service.js';
import { InboundReplanning } from './replanning.service.js';
import { InboundReserving } from './reserving.service.js';
import { InboundViews } from './views.service.js';
import { InboundWaysService } from './ways.service.js';

const ADVICE_TYPES = {
  xml: 'application/xml',
  edi: 'application/edifact',
  csv: 'text/csv',
  json: 'application/json',
} as const;

@Controller('inbound')
export class InboundController {
  constructor(
    private readonly views: InboundViews,
    private readonly drafts: InboundDrafts,
    private readonly preparing: InboundPreparing,
    private readonly ways: InboundWaysService,
    private readonly reserving: InboundReserving,
    private readonly replanning: InboundReplanning,
    private readonly bookings: InboundBookings,
    private readonly following: InboundFollowing,
    private readonly papers: InboundPapers,
    private readonly boxEdits: InboundBoxEdits,
  ) {}

  @Get()
  @SignedIn()
  @Answers(z.array(InboundRow))
  list(): Promise<InboundRow[]> {
    return this.views.list();
  }

  /** The networks that goods may go to, and the house's company prefix. */
  @Get('networks')
  @SignedIn()
  @Answers(InboundNetworks)
  async networks(): Promise<InboundNetworks> {
    return { networks: await this.views.networks(), prefix: await this.bookings.prefix() };
  }

  @Post('prefix')
  @HttpCode(200)
  @May('inbound.book')
  @Takes({ body: PrefixIn })
  @Answers('nothing')
  prefix(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.bookings.setPrefix(parse(PrefixIn, body).prefix, by(me));
  }

  @Post()
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: InboundIn })
  @Answers(MadeNo)
  async create(@Body() body: unknown, @Me() me: Person): Promise<{ no: string }> {
    return { no: await this.drafts.create(parse(InboundIn, body), by(me)) };
  }

  @Get(':no')
  @SignedIn()
  @Answers(InboundView)
  one(@Param('no') no: string): Promise<InboundView> {
    return this.views.one(no);
  }

  @Post(':no/change')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: InboundChange })
  @Answers('nothing')
  change(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.drafts.change(no, parse(InboundChange, body), by(me));
  }

  @Post(':no/lines')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: InboundLineIn })
  @Answers('nothing')
  line(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.drafts.setLine(no, parse(InboundLineIn, body), by(me));
  }

  @Post(':no/file')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: InboundFileIn })
  @Answers(InboundFileAnswer)
  file(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<InboundFileAnswer> {
    return this.drafts.file(no, parse(InboundFileIn, body).text, by(me));
  }

  /** Takes the goods of a purchase order or a build along. */
  @Post(':no/from')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: InboundFromIn })
  @Answers('nothing')
  from(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.drafts.from(no, parse(InboundFromIn, body).code, by(me));
  }

  /** Labels of the units that we label, in the count that is needed, or so many of one product. */
  @Get(':no/unit-labels/:form')
  @SignedIn()
  @Takes({ query: UnitLabelQuery })
  @Answers('file')
  async unitLabels(
    @Param('no') no: string,
    @Param('form') form: string,
    @Query() query: unknown,
    @Res() response: Response,
  ): Promise<void> {
    const only = parse(UnitLabelQuery, query);
    const pdf = await this.papers.units(no, parse(z.enum(UNIT_LABEL_FORMS), form), only);
    response.type('application/pdf').send(pdf);
  }

  /** Asks the network for the codes that it will scan. */
  @Post(':no/codes')
  @HttpCode(200)
  @May('inbound.change')
  @Answers('nothing')
  codes(@Param('no') no: string, @Me() me: Person): Promise<void> {
    return this.drafts.askCodes(no, by(me));
  }

  @Post(':no/scans')
  @HttpCode(200)
  @May('inbound.prepare')
  @Takes({ body: InboundScanIn })
  @Answers(InboundScanned)
  scan(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<InboundScanned> {
    return this.drafts.scan(no, parse(InboundScanIn, body).text, by(me));
  }

  @Post(':no/prepared')
  @HttpCode(200)
  @May('inbound.prepare')
  @Takes({ body: InboundPreparedIn })
  @Answers('nothing')
  prepared(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.preparing.prepared(no, parse(InboundPreparedIn, body), by(me));
  }

  @Get(':no/ways')
  @SignedIn()
  @Answers(InboundWays)
  compare(@Param('no') no: string): Promise<InboundWays> {
    return this.ways.compare(no);
  }

  @Post(':no/way')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: WayIn })
  @Answers('nothing')
  choose(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.ways.choose(no, parse(WayIn, body), by(me));
  }

  @Post(':no/reserve')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: InboundAct })
  @Answers('nothing')
  reserve(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.reserving.reserve(no, parse(InboundAct, body).key, by(me));
  }

  /** Takes in what the network has changed of its plan: what is concerned is put back and made ready anew. */
  @Post(':no/replan')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: InboundAct })
  @Answers('nothing')
  replan(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.replanning.take(no, parse(InboundAct, body).key, by(me));
  }

  @Post(':no/cancel')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: InboundAct })
  @Answers('nothing')
  cancel(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.reserving.cancel(no, parse(InboundAct, body).key, by(me));
  }

  /** Asks the network now what became of it. */
  @Post(':no/follow')
  @HttpCode(200)
  @May('inbound.change')
  @Answers('nothing')
  follow(@Param('no') no: string): Promise<void> {
    return this.following.now(no);
  }

  /** Gives up what goes to one center; the others stay. */
  @Post('parts/:part/cancel')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: InboundAct })
  @Answers('nothing')
  cancelPart(@Param('part') part: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.reserving.cancelOne(parse(Id, part), parse(InboundAct, body).key, by(me));
  }

  /** Moves units from one planned box into another, or a new one. */
  @Post('parts/:part/move')
  @HttpCode(200)
  @May('inbound.change')
  @Takes({ body: MoveUnitsIn })
  @Answers('nothing')
  move(@Param('part') part: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.boxEdits.move(parse(Id, part), parse(MoveUnitsIn, body), by(me));
  }

  /** What booking would cost now; the boxes get their numbers with it. */
  @Post('parts/:part/price')
  @HttpCode(200)
  @May('inbound.book')
  @Answers(InboundPrice)
  price(@Param('part') part: string, @Me() me: Person): Promise<InboundPrice> {
    return this.bookings.price(parse(Id, part), by(me));
  }

  @Post('parts/:part/book')
  @HttpCode(200)
  @May('inbound.book')
  @Takes({ body: BookIn })
  @Answers('nothing')
  book(@Param('part') part: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    const { key, priceMinor } = parse(BookIn, body);
    return this.bookings.book(parse(Id, part), key, priceMinor, by(me));
  }

  @Post('parts/:part/call-off')
  @HttpCode(200)
  @May('inbound.book')
  @Answers('nothing')
  callOff(@Param('part') part: string, @Me() me: Person): Promise<void> {
    return this.bookings.callOff(parse(Id, part), by(me));
  }

  @Post('parts/:part/leave')
  @HttpCode(200)
  @May('handover')
  @Answers('nothing')
  leave(@Param('part') part: string, @Me() me: Person): Promise<void> {
    return this.bookings.leave(parse(Id, part), by(me));
  }

  /** Labels of the boxes: the carrier's and the center's on one sheet. */
  @Get('parts/:part/labels.pdf')
  @SignedIn()
  @Answers('file')
  async labels(@Param('part') part: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.papers.labels(parse(Id, part)));
  }

  /** Labels of the pallets, each twice: for two sides. */
  @Get('parts/:part/pallets.pdf')
  @SignedIn()
  @Answers('file')
  async palletLabels(@Param('part') part: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.papers.pallets(parse(Id, part)));
  }

  @Get('parts/:part/packing-list.pdf')
  @SignedIn()
  @Answers('file')
  async packingList(@Param('part') part: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.papers.list(parse(Id, part), 'packing list'));
  }

  @Get('parts/:part/delivery-note.pdf')
  @SignedIn()
  @Answers('file')
  async deliveryNote(@Param('part') part: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.papers.list(parse(Id, part), 'delivery note'));
  }

  /** The despatch advice, as UBL, EDIFACT, CSV or JSON. */
  @Get('parts/:part/advice/:form')
  @SignedIn()
  @Answers('file')
  async advice(
    @Param('part') part: string,
    @Param('form') form: string,
    @Res() response: Response,
  ): Promise<void> {
    const as = parse(z.enum(ADVICE_FORMS), form);
    const text = await this.papers.advice(parse(Id, part), as);
    response
      .type(ADVICE_TYPES[as])
      .setHeader('content-disposition', `attachment; filename="despatch.${as}"`)
      .send(text);
  }

  /** What is missing and claimed from the network. */
  @Get(':no/claim.csv')
  @SignedIn()
  @Answers('file')
  async claim(@Param('no') no: string, @Res() response: Response): Promise<void> {
    response
      .type('text/csv')
      .setHeader('content-disposition', 'attachment; filename="claim.csv"')
      .send(await this.papers.claim(no));
  }

  @Post('differences/:id/decide')
  @HttpCode(200)
  @May('inbound.book')
  @Takes({ body: DecideDifference })
  @Answers('nothing')
  decide(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.following.decide(parse(Id, id), parse(DecideDifference, body), by(me));
  }
}
