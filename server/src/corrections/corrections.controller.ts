import {
  BeginCount,
  Corrected,
  CountIn,
  CountJudged,
  CountSession,
  Id,
  type Judged,
  MoveIn,
  type Person,
  ScanIn,
  ServedAgain,
  StockSettings,
  WriteOffIn,
} from '@auk/contract';
import type { CountState } from '@auk/core';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { StockDesk } from './stockDesk.service.js';

/** What people correct in the stock. */
@Controller('stock')
export class CorrectionsController {
  constructor(private readonly desk: StockDesk) {}

  @Get('settings')
  @SignedIn()
  @Answers(StockSettings)
  settings(): Promise<StockSettings> {
    return this.desk.settings();
  }

  @Post('settings')
  @HttpCode(200)
  @May('stock.serve')
  @Takes({ body: StockSettings })
  @Answers('nothing')
  saveSettings(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.desk.saveSettings(parse(StockSettings, body), by(me));
  }

  @Post('serve-again')
  @HttpCode(200)
  @May('stock.serve')
  @Answers(ServedAgain)
  serveAgain(@Me() me: Person): Promise<{ cleared: number; shorted: number }> {
    return this.desk.serveAgain(by(me));
  }

  @Post('moves')
  @HttpCode(200)
  @May('stock.move')
  @Takes({ body: MoveIn })
  @Answers(Corrected)
  move(@Body() body: unknown, @Me() me: Person): Promise<Corrected> {
    return this.desk.move(parse(MoveIn, body), by(me));
  }

  @Post('write-offs')
  @HttpCode(200)
  @May('stock.write-off')
  @Takes({ body: WriteOffIn })
  @Answers(Corrected)
  writeOff(@Body() body: unknown, @Me() me: Person): Promise<Corrected> {
    return this.desk.writeOff(parse(WriteOffIn, body), by(me));
  }

  @Post('counts/sessions')
  @HttpCode(200)
  @May('stock.count')
  @Takes({ body: BeginCount })
  @Answers(CountSession)
  beginCount(@Body() body: unknown, @Me() me: Person): Promise<CountSession> {
    return this.desk.beginCount(parse(BeginCount, body), by(me));
  }

  @Post('counts/sessions/:id/scans')
  @HttpCode(200)
  @May('stock.count')
  @Takes({ body: ScanIn })
  @Answers(CountJudged)
  scanCount(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<Judged<CountState>> {
    return this.desk.scanCount(parse(Id, id), parse(ScanIn, body), by(me));
  }

  @Post('counts')
  @HttpCode(200)
  @May('stock.count')
  @Takes({ body: CountIn })
  @Answers(Corrected)
  count(@Body() body: unknown, @Me() me: Person): Promise<Corrected> {
    return this.desk.count(parse(CountIn, body), by(me));
  }
}
