import { ExchangeRateView, HouseState, MadeBadge, OpenHouse, type Person } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Post, Req, Res } from '@nestjs/common';
import type { Request, Response } from 'express';
import { Anyone, by, keepSignedIn, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Opening } from './opening.service.js';

@Controller('house')
export class SetupController {
  constructor(private readonly opening: Opening) {}

  @Get()
  @Anyone()
  @Answers(HouseState)
  state(): Promise<HouseState> {
    return this.opening.state();
  }

  @Get('exchange')
  @SignedIn()
  @Answers(ExchangeRateView.array())
  rates(): Promise<ExchangeRateView[]> {
    return this.opening.rates();
  }

  @Post('exchange')
  @HttpCode(200)
  @May('carriers.change')
  @Takes({ body: ExchangeRateView })
  @Answers('nothing')
  enterRate(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.opening.enterRate(parse(ExchangeRateView, body), by(me));
  }

  @Post('open')
  @HttpCode(200)
  @Anyone()
  @Takes({ body: OpenHouse })
  @Answers(MadeBadge)
  async open(
    @Body() body: unknown,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<{ badge: string }> {
    const { token, badge } = await this.opening.open(parse(OpenHouse, body), new Date());
    keepSignedIn(request, response, token);
    return { badge };
  }
}
