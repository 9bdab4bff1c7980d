import { Keep, type Person } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { by, May, Me } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Upkeep } from './upkeep.service.js';

@Controller('upkeep')
export class UpkeepController {
  constructor(private readonly upkeep: Upkeep) {}

  @Get()
  @May('house.keep')
  @Answers(Keep)
  keep(): Promise<Keep> {
    return this.upkeep.keep();
  }

  /** How long what is done is kept, from now on. */
  @Post()
  @HttpCode(200)
  @May('house.keep')
  @Takes({ body: Keep })
  @Answers('nothing')
  set(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.upkeep.set(parse(Keep, body), by(me));
  }
}
