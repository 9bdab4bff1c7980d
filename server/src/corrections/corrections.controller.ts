import {
  Corrected,
  CountIn,
  FoundCode,
  MoveIn,
  type Person,
  ServedAgain,
  StockSettings,
  WriteOffIn,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Post, Query } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { StockDesk } from './stockDesk.service.js';

const CodeQuery = z.object({ code: z.string().trim().min(1).max(100) });

/** What people correct in the stock. */
@Controller('stock')
export class CorrectionsController {
  constructor(private readonly desk: StockDesk) {}

  /** The product a scanned code belongs to, and the units it counts; null when nothing has the code. */
  @Get('code')
  @SignedIn()
  @Takes({ query: CodeQuery })
  @Answers(FoundCode)
  async code(
    @Query() query: unknown,
  ): Promise<{ product: { sku: string; name: string; units: number } | null }> {
    return { product: await this.desk.byCode(parse(CodeQuery, query).code) };
  }

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

  @Post('counts')
  @HttpCode(200)
  @May('stock.count')
  @Takes({ body: CountIn })
  @Answers(Corrected)
  count(@Body() body: unknown, @Me() me: Person): Promise<Corrected> {
    return this.desk.count(parse(CountIn, body), by(me));
  }
}
