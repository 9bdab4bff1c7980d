import {
  BenchesView,
  BenchIn,
  BenchOfDevice,
  Id,
  type Person,
  PrinterIn,
  PrintJobRow,
  TakeBench,
  TrayQuery,
  Weighed,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Benches } from './benches.service.js';
import { PrintQueue } from './printQueue.service.js';
import { Scales } from './scales.service.js';

const DeviceQuery = TakeBench;
const BenchCode = z.string().min(1).max(20);

@Controller('benches')
export class BenchesController {
  constructor(
    private readonly benches: Benches,
    private readonly queue: PrintQueue,
    private readonly scales: Scales,
  ) {}

  @Get()
  @SignedIn()
  @Answers(BenchesView)
  all(): Promise<BenchesView> {
    return this.benches.all();
  }

  @Post()
  @HttpCode(200)
  @May('benches.change')
  @Takes({ body: BenchIn })
  @Answers('nothing')
  save(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.benches.save(parse(BenchIn, body), by(me));
  }

  @Post('printers')
  @HttpCode(200)
  @May('benches.change')
  @Takes({ body: PrinterIn })
  @Answers('nothing')
  savePrinter(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.benches.savePrinter(parse(PrinterIn, body), by(me));
  }

  /** The bench that a device stands at. */
  @Get('mine')
  @SignedIn()
  @Takes({ query: DeviceQuery })
  @Answers(BenchOfDevice)
  mine(@Query() query: unknown): Promise<BenchOfDevice> {
    return this.benches.of(parse(DeviceQuery, query).device);
  }

  @Post(':code/take')
  @HttpCode(200)
  @May('pack')
  @Takes({ body: TakeBench })
  @Answers(BenchOfDevice)
  take(@Param('code') code: string, @Body() body: unknown, @Me() me: Person): Promise<BenchOfDevice> {
    return this.benches.take(parse(BenchCode, code), parse(TakeBench, body).device, by(me));
  }

  /** What lies on a bench's scale now. */
  @Get(':id/weight')
  @May('pack')
  @Answers(Weighed)
  async weight(@Param('id') id: string): Promise<Weighed> {
    return { mg: await this.scales.weigh(parse(Id, id)) };
  }

  @Get('tray')
  @SignedIn()
  @Takes({ query: TrayQuery })
  @Answers(z.array(PrintJobRow))
  tray(@Query() query: unknown): Promise<PrintJobRow[]> {
    return this.benches.tray(parse(TrayQuery, query).printer ?? null);
  }

  @Post('tray/:id/again')
  @HttpCode(200)
  @May('labels.print')
  @Answers('nothing')
  again(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.queue.again(parse(Id, id), by(me));
  }
}
