import {
  BulkAnswer,
  ChooseService,
  CompareAsk,
  CompareView,
  Id,
  ParcelTemplateIn,
  ParcelTemplateView,
  type Person,
  UseTemplate,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { ChoiceService } from './choice.service.js';
import { Compare } from './compare.service.js';
import { ParcelTemplates } from './templates.service.js';

@Controller('rating')
export class RatingController {
  constructor(
    private readonly compare: Compare,
    private readonly choice: ChoiceService,
    private readonly templates: ParcelTemplates,
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

  @Get('templates')
  @SignedIn()
  @Answers(ParcelTemplateView.array())
  list(): Promise<ParcelTemplateView[]> {
    return this.templates.list();
  }

  @Post('templates')
  @HttpCode(200)
  @May('labels.choose')
  @Takes({ body: ParcelTemplateIn })
  @Answers('nothing')
  save(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.templates.save(parse(ParcelTemplateIn, body), by(me));
  }

  @Post('templates/:id/remove')
  @HttpCode(200)
  @May('labels.choose')
  @Answers('nothing')
  remove(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.templates.remove(parse(Id, id), by(me));
  }

  /** Lets orders leave as a template says. */
  @Post('templates/:id/use')
  @HttpCode(200)
  @May('labels.choose')
  @Takes({ body: UseTemplate })
  @Answers(BulkAnswer.array())
  use(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<BulkAnswer[]> {
    return this.templates.use(parse(Id, id), parse(UseTemplate, body).ids, by(me));
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
