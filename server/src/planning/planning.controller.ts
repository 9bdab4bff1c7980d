import {
  Id,
  type Person,
  PlanChoices,
  PlanIn,
  PlanLock,
  PlanMove,
  PlanRelease,
  PlanRow,
  PlanView,
  Released,
  WalkView,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { PlanningService } from './planning.service.js';

@Controller('planning')
export class PlanningController {
  constructor(private readonly planning: PlanningService) {}

  @Get('choices')
  @May('lists.release')
  @Answers(PlanChoices)
  choices(): Promise<PlanChoices> {
    return this.planning.choices();
  }

  @Get('plans')
  @May('lists.release')
  @Answers(z.array(PlanRow))
  plans(): Promise<PlanRow[]> {
    return this.planning.recent();
  }

  @Post('plans')
  @HttpCode(200)
  @May('lists.release')
  @Takes({ body: PlanIn })
  @Answers(PlanView)
  ask(@Body() body: unknown, @Me() me: Person): Promise<PlanView> {
    return this.planning.ask(parse(PlanIn, body), by(me));
  }

  @Get('plans/:id')
  @May('lists.release')
  @Answers(PlanView)
  plan(@Param('id') id: string): Promise<PlanView> {
    return this.planning.view(parse(Id, id));
  }

  @Get('plans/:id/lists/:listId/walk')
  @May('lists.release')
  @Answers(WalkView)
  walk(@Param('id') id: string, @Param('listId') listId: string): Promise<WalkView> {
    return this.planning.walk(parse(Id, id), parse(Id, listId));
  }

  @Post('plans/:id/stop')
  @HttpCode(200)
  @May('lists.release')
  @Answers(PlanView)
  stop(@Param('id') id: string, @Me() me: Person): Promise<PlanView> {
    return this.planning.stop(parse(Id, id), by(me));
  }

  @Post('plans/:id/move')
  @HttpCode(200)
  @May('lists.release')
  @Takes({ body: PlanMove })
  @Answers(PlanView)
  move(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<PlanView> {
    return this.planning.move(parse(Id, id), parse(PlanMove, body), by(me));
  }

  @Post('plans/:id/lock')
  @HttpCode(200)
  @May('lists.release')
  @Takes({ body: PlanLock })
  @Answers(PlanView)
  lock(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<PlanView> {
    return this.planning.lock(parse(Id, id), parse(PlanLock, body), by(me));
  }

  @Post('plans/:id/release')
  @HttpCode(200)
  @May('lists.release')
  @Takes({ body: PlanRelease })
  @Answers(Released)
  release(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<Released> {
    return this.planning.release(parse(Id, id), parse(PlanRelease, body).listIds, by(me));
  }
}
