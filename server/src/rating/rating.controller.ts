import { ChooseService, CompareAsk, CompareView, Id, type Person } from '@auk/contract';
import { Body, Controller, HttpCode, Param, Post } from '@nestjs/common';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { ChoiceService } from './choice.service.js';
import { Compare } from './compare.service.js';

@Controller('rating')
export class RatingController {
  constructor(
    private readonly compare: Compare,
    private readonly choice: ChoiceService,
  ) {}

  /** Asks all carriers, and changes nothing. */
  @Post('compare')
  @HttpCode(200)
  @SignedIn()
  @Takes({ body: CompareAsk })
  @Answers(CompareView)
  compared(@Body() body: unknown): Promise<CompareView> {
    return this.compare.of(parse(CompareAsk, body), new Date());
  }

  /** Chooses the service of an order, or frees it again. */
  @Post('orders/:id')
  @HttpCode(200)
  @May('labels.choose')
  @Takes({ body: ChooseService })
  @Answers('nothing')
  choose(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.choice.choose(parse(Id, id), parse(ChooseService, body).chosen, by(me));
  }
}
