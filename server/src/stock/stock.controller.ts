import {
  CountProposal,
  FloorIn,
  FloorView,
  LedgerPage,
  LedgerQuery,
  MakeTotes,
  MakeWall,
  type Page,
  type Person,
  PlaceIn,
  PlaceQuery,
  PlaceRow,
  pageOf,
  StockQuery,
  StockRow,
  ToteRow,
  WallLetter,
  WallMade,
  WallView,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { FloorService } from './floor.service.js';
import { Places } from './places.service.js';
import { StockQueries } from './stock.queries.js';
import { Totes } from './totes.service.js';
import { Walls } from './walls.service.js';

@Controller('stock')
export class StockController {
  constructor(
    private readonly queries: StockQueries,
    private readonly places: Places,
    private readonly floors: FloorService,
    private readonly totes: Totes,
    private readonly walls: Walls,
  ) {}

  @Get()
  @SignedIn()
  @Takes({ query: StockQuery })
  @Answers(pageOf(StockRow))
  list(@Query() query: unknown): Promise<Page<StockRow>> {
    return this.queries.list(parse(StockQuery, query), new Date());
  }

  @Get('ledger/:sku')
  @SignedIn()
  @Takes({ query: LedgerQuery })
  @Answers(LedgerPage)
  ledger(@Param('sku') sku: string, @Query() query: unknown): Promise<LedgerPage> {
    return this.queries.ledger(sku, parse(LedgerQuery, query).before, new Date());
  }

  @Get('counts/proposed')
  @SignedIn()
  @Answers(z.array(CountProposal))
  proposed(): Promise<CountProposal[]> {
    return this.queries.countProposals(new Date());
  }

  @Get('places')
  @SignedIn()
  @Takes({ query: PlaceQuery })
  @Answers(pageOf(PlaceRow))
  placeList(@Query() query: unknown): Promise<Page<PlaceRow>> {
    return this.places.list(parse(PlaceQuery, query));
  }

  @Post('places')
  @HttpCode(200)
  @May('places.change')
  @Takes({ body: PlaceIn })
  @Answers('nothing')
  async savePlace(@Body() body: unknown, @Me() me: Person): Promise<void> {
    await this.places.save(parse(PlaceIn, body), by(me));
  }

  @Get('totes')
  @SignedIn()
  @Answers(z.array(ToteRow))
  toteList(): Promise<ToteRow[]> {
    return this.totes.list(new Date());
  }

  @Post('totes')
  @HttpCode(200)
  @May('places.change')
  @Takes({ body: MakeTotes })
  @Answers(z.array(z.string()))
  makeTotes(@Body() body: unknown, @Me() me: Person): Promise<string[]> {
    return this.totes.make(parse(MakeTotes, body), by(me));
  }

  @Get('walls')
  @SignedIn()
  @Answers(z.array(WallView))
  wallList(): Promise<WallView[]> {
    return this.walls.list();
  }

  @Post('walls')
  @HttpCode(200)
  @May('places.change')
  @Takes({ body: MakeWall })
  @Answers(WallMade)
  async makeWall(@Body() body: unknown, @Me() me: Person): Promise<WallMade> {
    return { wall: await this.walls.make(parse(MakeWall, body), by(me)) };
  }

  @Post('walls/:wall/remove')
  @HttpCode(200)
  @May('places.change')
  @Answers('nothing')
  async removeWall(@Param('wall') wall: string, @Me() me: Person): Promise<void> {
    await this.walls.remove(parse(WallLetter, wall), by(me));
  }

  @Get('floor')
  @SignedIn()
  @Answers(FloorView)
  floor(): Promise<FloorView> {
    return this.floors.view();
  }

  @Post('floor')
  @HttpCode(200)
  @May('places.change')
  @Takes({ body: FloorIn })
  @Answers(FloorView)
  saveFloor(@Body() body: unknown, @Me() me: Person): Promise<FloorView> {
    return this.floors.save(parse(FloorIn, body), by(me));
  }
}
