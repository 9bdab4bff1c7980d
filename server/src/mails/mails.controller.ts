import { AlertIn, BrandIn, Id, MailSetup, MailTemplateIn, MailWayIn, type Person } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Req } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, type SignedRequest } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { MailDesk } from './desk.service.js';
import { MailWays } from './ways.service.js';

const ChannelCode = z.string().min(1).max(20);

@Controller('mails')
export class MailsController {
  constructor(
    private readonly desk: MailDesk,
    private readonly ways: MailWays,
  ) {}

  @Get()
  @May('mails.change')
  @Answers(MailSetup)
  setup(): Promise<MailSetup> {
    return this.desk.setup();
  }

  @Post('way')
  @HttpCode(200)
  @May('mails.change')
  @Takes({ body: MailWayIn })
  @Answers('nothing')
  way(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.ways.set(parse(MailWayIn, body), by(me));
  }

  @Post('templates')
  @HttpCode(200)
  @May('mails.change')
  @Takes({ body: MailTemplateIn })
  @Answers('nothing')
  template(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.desk.saveTemplate(parse(MailTemplateIn, body), by(me));
  }

  @Post('templates/:id/remove')
  @HttpCode(200)
  @May('mails.change')
  @Answers('nothing')
  removeTemplate(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.desk.removeTemplate(parse(Id, id), by(me));
  }

  @Post('brands/:channel')
  @HttpCode(200)
  @May('mails.change')
  @Takes({ body: BrandIn })
  @Answers('nothing')
  brand(@Param('channel') channel: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.desk.saveBrand(parse(ChannelCode, channel), parse(BrandIn, body), by(me));
  }

  @Post('brands/:channel/logo')
  @HttpCode(200)
  @May('mails.change')
  @Answers('nothing')
  logo(@Param('channel') channel: string, @Req() request: SignedRequest, @Me() me: Person): Promise<void> {
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    return this.desk.saveLogo(parse(ChannelCode, channel), bytes, by(me));
  }

  @Post('alerts')
  @HttpCode(200)
  @May('mails.change')
  @Takes({ body: AlertIn })
  @Answers('nothing')
  alert(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.desk.saveAlert(parse(AlertIn, body), by(me));
  }

  @Post('alerts/:id/remove')
  @HttpCode(200)
  @May('mails.change')
  @Answers('nothing')
  removeAlert(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.desk.removeAlert(parse(Id, id), by(me));
  }

  @Post(':id/again')
  @HttpCode(200)
  @May('mails.change')
  @Answers('nothing')
  again(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.desk.again(parse(Id, id), by(me));
  }
}
