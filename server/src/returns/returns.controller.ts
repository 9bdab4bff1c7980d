import { CountBackIn, Id, JudgeIn, MadeId, type Person, ReturnView, TakeBackIn } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Returns } from './returns.service.js';

@Controller('returns')
export class ReturnsController {
  constructor(private readonly returns: Returns) {}

  @Get()
  @SignedIn()
  @Answers(ReturnView.array())
  list(): Promise<ReturnView[]> {
    return this.returns.list();
  }

  @Post()
  @HttpCode(200)
  @May('returns.take')
  @Takes({ body: TakeBackIn })
  @Answers(MadeId)
  take(@Body() body: unknown, @Me() me: Person): Promise<{ id: string }> {
    return this.returns.takeBack(parse(TakeBackIn, body), by(me));
  }

  @Post('pieces/:id/count')
  @HttpCode(200)
  @May('returns.take')
  @Takes({ body: CountBackIn })
  @Answers('nothing')
  count(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.returns.countPiece(parse(Id, id), parse(CountBackIn, body).quantity, by(me));
  }

  @Post('pieces/:id/judge')
  @HttpCode(200)
  @May('returns.judge')
  @Takes({ body: JudgeIn })
  @Answers('nothing')
  judge(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.returns.judge(parse(Id, id), parse(JudgeIn, body), by(me));
  }
}
