import { BuyerPage, Id, MessageIn, type Person, ThreadView } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { Anyone, by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Buyers } from './buyers.service.js';

const Token = z.string().max(60);
const Seq = z.coerce.number().int().min(1).max(1000);

@Controller()
export class BuyersController {
  constructor(private readonly buyers: Buyers) {}

  @Get('buyers/:token')
  @Anyone()
  @Answers(BuyerPage)
  page(@Param('token') token: string): Promise<BuyerPage> {
    return this.buyers.page(parse(Token, token), new Date());
  }

  @Get('buyers/:token/logo')
  @Anyone()
  @Answers('file')
  async logo(@Param('token') token: string, @Res() response: Response): Promise<void> {
    const { bytes, type } = await this.buyers.logo(parse(Token, token), new Date());
    response.type(type).send(bytes);
  }

  @Get('buyers/:token/return/:seq')
  @Anyone()
  @Answers('file')
  async returnLabel(
    @Param('token') token: string,
    @Param('seq') seq: string,
    @Res() response: Response,
  ): Promise<void> {
    const pdf = await this.buyers.returnLabel(parse(Token, token), parse(Seq, seq), new Date());
    response.type('application/pdf').send(pdf);
  }

  @Post('buyers/:token/messages')
  @HttpCode(200)
  @Anyone()
  @Takes({ body: MessageIn })
  @Answers(BuyerPage)
  write(@Param('token') token: string, @Body() body: unknown): Promise<BuyerPage> {
    return this.buyers.write(parse(Token, token), parse(MessageIn, body), new Date());
  }

  @Get('orders/:id/thread')
  @SignedIn()
  @Answers(ThreadView)
  thread(@Param('id') id: string): Promise<ThreadView> {
    return this.buyers.thread(parse(Id, id));
  }

  @Post('orders/:id/messages')
  @HttpCode(200)
  @May('buyers.write')
  @Takes({ body: MessageIn })
  @Answers(ThreadView)
  async answer(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<ThreadView> {
    const orderId = parse(Id, id);
    await this.buyers.answer(orderId, parse(MessageIn, body), by(me));
    return this.buyers.thread(orderId);
  }

  @Post('orders/:id/messages/seen')
  @HttpCode(200)
  @May('buyers.write')
  @Answers(ThreadView)
  async seen(@Param('id') id: string, @Me() me: Person): Promise<ThreadView> {
    const orderId = parse(Id, id);
    await this.buyers.seen(orderId, by(me));
    return this.buyers.thread(orderId);
  }
}
