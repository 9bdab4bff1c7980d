import {
  type Corrected,
  CountIn,
  type CountProposal,
  type LedgerPage,
  LedgerQuery,
  MoveIn,
  type Page,
  type Person,
  PlaceIn,
  PlaceQuery,
  type PlaceRow,
  StockQuery,
  type StockRow,
  StockSettings,
  WriteOffIn,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { parse } from '../http/parse.js';
import { Places } from './places.service.js';
import { StockQueries } from './stock.queries.js';
import { StockDesk } from './stockDesk.service.js';

const CodeQuery = z.object({ code: z.string().trim().min(1).max(100) });

@Controller('stock')
export class StockController {
  constructor(
    private readonly queries: StockQueries,
    private readonly desk: StockDesk,
    private readonly places: Places,
  ) {}

  @Get()
  @SignedIn()
  list(@Query() query: unknown): Promise<Page<StockRow>> {
    return this.queries.list(parse(StockQuery, query), new Date());
  }

  /** The product a scanned code belongs to, and the units it counts; null when nothing has the code. */
  @Get('code')
  @SignedIn()
  async code(
    @Query() query: unknown,
  ): Promise<{ product: { sku: string; name: string; units: number } | null }> {
    return { product: await this.desk.byCode(parse(CodeQuery, query).code) };
  }

  @Get('settings')
  @SignedIn()
  settings(): Promise<StockSettings> {
    return this.desk.settings();
  }

  @Post('settings')
  @HttpCode(200)
  @May('stock.serve')
  saveSettings(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.desk.saveSettings(parse(StockSettings, body), by(me));
  }

  @Post('serve-again')
  @HttpCode(200)
  @May('stock.serve')
  serveAgain(@Me() me: Person): Promise<{ cleared: number; shorted: number }> {
    return this.desk.serveAgain(by(me));
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

  @Post('moves')
  @HttpCode(200)
  @May('stock.move')
  move(@Body() body: unknown, @Me() me: Person): Promise<Corrected> {
    return this.desk.move(parse(MoveIn, body), by(me));
  }

  @Post('write-offs')
  @HttpCode(200)
  @May('stock.write-off')
  writeOff(@Body() body: unknown, @Me() me: Person): Promise<Corrected> {
    return this.desk.writeOff(parse(WriteOffIn, body), by(me));
  }

  @Post('counts')
  @HttpCode(200)
  @May('stock.count')
  count(@Body() body: unknown, @Me() me: Person): Promise<Corrected> {
    return this.desk.count(parse(CountIn, body), by(me));
  }
}
