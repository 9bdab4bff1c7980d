import {
  CarrierAccountIn,
  CarrierKind,
  CarrierView,
  ClosedDay,
  ConnectCarrier,
  Id,
  type Person,
  SheetTaken,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Req, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn, type SignedRequest } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { CarriersService } from './carriers.service.js';

const Code = z.string().min(1).max(40);
const InUse = z.object({ inUse: z.boolean() });
const ClosedDays = z.object({ days: ClosedDay.array().max(400) });

@Controller('carriers')
export class CarriersController {
  constructor(private readonly carriers: CarriersService) {}

  @Get()
  @SignedIn()
  @Answers(CarrierView.array())
  list(): Promise<CarrierView[]> {
    return this.carriers.list(new Date());
  }

  @Get('kinds')
  @SignedIn()
  @Answers(CarrierKind.array())
  kinds(): CarrierKind[] {
    return this.carriers.kinds();
  }

  @Get('closed')
  @SignedIn()
  @Answers(ClosedDay.array())
  closed(): Promise<ClosedDay[]> {
    return this.carriers.closedDays();
  }

  /** Public holidays of the year to come that are not days off yet. */
  @Get('closed/proposed')
  @SignedIn()
  @Answers(ClosedDay.array())
  proposed(): Promise<ClosedDay[]> {
    return this.carriers.proposedDays(new Date());
  }

  @Post('closed')
  @HttpCode(200)
  @May('carriers.change')
  @Takes({ body: ClosedDays })
  @Answers('nothing')
  close(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.carriers.setClosedDays(parse(ClosedDays, body).days, by(me));
  }

  @Post('connect')
  @HttpCode(200)
  @May('carriers.change')
  @Takes({ body: ConnectCarrier })
  @Answers('nothing')
  connect(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.carriers.connect(parse(ConnectCarrier, body), by(me));
  }

  @Post(':code/accounts')
  @HttpCode(200)
  @May('carriers.change')
  @Takes({ body: CarrierAccountIn })
  @Answers('nothing')
  account(@Param('code') code: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.carriers.account(parse(Code, code), parse(CarrierAccountIn, body), by(me));
  }

  @Post(':code/services/:service')
  @HttpCode(200)
  @May('carriers.change')
  @Takes({ body: InUse })
  @Answers('nothing')
  serve(
    @Param('code') code: string,
    @Param('service') service: string,
    @Body() body: unknown,
    @Me() me: Person,
  ): Promise<void> {
    return this.carriers.serve(parse(Code, code), parse(Code, service), parse(InUse, body).inUse, by(me));
  }

  /** Takes a rate sheet in, as CSV bytes. */
  @Post('accounts/:id/sheets')
  @HttpCode(200)
  @May('carriers.change')
  @Answers(SheetTaken)
  sheet(@Param('id') id: string, @Req() request: SignedRequest, @Me() me: Person): Promise<SheetTaken> {
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    return this.carriers.takeSheet(parse(Id, id), bytes, by(me));
  }

  @Get('sheets/:id.csv')
  @SignedIn()
  @Answers('file')
  async file(@Param('id') id: string, @Res() response: Response): Promise<void> {
    const { text } = await this.carriers.sheetFile(parse(Id, id));
    response.type('text/csv').send(text);
  }
}
