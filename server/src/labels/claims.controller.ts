import { ClaimView, CloseClaim, Id, type Person } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Claims } from './claims.service.js';

@Controller('claims')
export class ClaimsController {
  constructor(private readonly claims: Claims) {}

  @Get()
  @SignedIn()
  @Answers(ClaimView.array())
  list(): Promise<ClaimView[]> {
    return this.claims.list();
  }

  @Post(':id/close')
  @HttpCode(200)
  @May('labels.claims')
  @Takes({ body: CloseClaim })
  @Answers('nothing')
  close(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.claims.close(parse(Id, id), parse(CloseClaim, body).state, by(me));
  }
}
