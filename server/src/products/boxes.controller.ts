import { BoxesView, BoxIn, BoxOrder, Guesses, PackingChoices, type Person } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Boxes } from './boxes.service.js';

@Controller('boxes')
export class BoxesController {
  constructor(private readonly boxes: Boxes) {}

  @Get()
  @SignedIn()
  @Answers(BoxesView)
  all(): Promise<BoxesView> {
    return this.boxes.all();
  }

  @Post()
  @HttpCode(200)
  @May('boxes.change')
  @Takes({ body: BoxIn })
  @Answers('nothing')
  save(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.boxes.save(parse(BoxIn, body), by(me));
  }

  /** How boxes are proposed, for orders that are opened from now on. */
  @Post('choices')
  @HttpCode(200)
  @May('boxes.change')
  @Takes({ body: PackingChoices })
  @Answers('nothing')
  choose(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.boxes.choose(parse(PackingChoices, body), by(me));
  }

  /** What products without size or weight count as. */
  @Post('guesses')
  @HttpCode(200)
  @May('boxes.change')
  @Takes({ body: Guesses })
  @Answers('nothing')
  guess(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.boxes.guess(parse(Guesses, body).guesses, by(me));
  }

  @Post('order')
  @HttpCode(200)
  @May('boxes.change')
  @Takes({ body: BoxOrder })
  @Answers('nothing')
  arrange(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.boxes.arrange(parse(BoxOrder, body).codes, by(me));
  }
}
