import {
  type CountProposal,
  type LedgerPage,
  LedgerQuery,
  type Page,
  type Person,
  PlaceIn,
  PlaceQuery,
  type PlaceRow,
  StockQuery,
  type StockRow,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { by, May, Me, SignedIn } from '../http/access.js';
import { parse } from '../http/parse.js';
import { Places } from './places.service.js';
import { StockQueries } from './stock.queries.js';

@Controller('stock')
export class StockController {
  constructor(
    private readonly queries: StockQueries,
    private readonly places: Places,
  ) {}

  @Get()
  @SignedIn()
  list(@Query() query: unknown): Promise<Page<StockRow>> {
    return this.queries.list(parse(StockQuery, query), new Date());
  }

  @Get('ledger/:sku')
  @SignedIn()
  ledger(@Param('sku') sku: string, @Query() query: unknown): Promise<LedgerPage> {
    return this.queries.ledger(sku, parse(LedgerQuery, query).before, new Date());
  }

  @Get('counts/proposed')
  @SignedIn()
  proposed(): Promise<CountProposal[]> {
    return this.queries.countProposals(new Date());
  }

  @Get('places')
  @SignedIn()
  placeList(@Query() query: unknown): Promise<Page<PlaceRow>> {
    return this.places.list(parse(PlaceQuery, query));
  }

  @Post('places')
  @HttpCode(200)
  @May('places.change')
  async savePlace(@Body() body: unknown, @Me() me: Person): Promise<void> {
    await this.places.save(parse(PlaceIn, body), by(me));
  }
}
