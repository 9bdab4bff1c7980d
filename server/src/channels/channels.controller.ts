import { ChannelKind, ChannelTrouble, ChannelView, ConnectChannel, type Person } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { ChannelsService } from './channels.service.js';

const Code = z.string().min(1).max(20);

@Controller('channels')
export class ChannelsController {
  constructor(private readonly channels: ChannelsService) {}

  @Get()
  @SignedIn()
  @Answers(z.array(ChannelView))
  list(): Promise<ChannelView[]> {
    return this.channels.list();
  }

  @Get('kinds')
  @SignedIn()
  @Answers(z.array(ChannelKind))
  kinds(): ChannelKind[] {
    return this.channels.kinds();
  }

  @Get(':code/trouble')
  @May('channels.pull')
  @Answers(ChannelTrouble.array())
  trouble(@Param('code') code: string): Promise<{ number: string; why: string; at: Date }[]> {
    return this.channels.trouble(parse(Code, code));
  }

  @Post(':code/connect')
  @HttpCode(200)
  @May('channels.connect')
  @Takes({ body: ConnectChannel })
  @Answers('nothing')
  connect(@Param('code') code: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.channels.connect(parse(Code, code), parse(ConnectChannel, body), by(me));
  }

  @Post(':code/pull')
  @HttpCode(200)
  @May('channels.pull')
  @Answers('nothing')
  pull(@Param('code') code: string, @Me() me: Person): Promise<void> {
    return this.channels.pullSoon(parse(Code, code), by(me));
  }
}
