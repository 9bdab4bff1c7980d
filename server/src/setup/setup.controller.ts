import { HouseState, MadeBadge, OpenHouse } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Post, Req, Res } from '@nestjs/common';
import type { Request, Response } from 'express';
import { Anyone, keepSignedIn } from '../http/access.js';
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
