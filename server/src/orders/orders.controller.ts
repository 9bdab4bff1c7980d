import {
  Cancel,
  Id,
  OrderQuery,
  type OrderRow,
  type OrderView,
  type Page,
  Park,
  type Person,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { z } from 'zod';
import { ALL_ROLES, Me, Roles } from '../http/access.js';
import { parse } from '../http/parse.js';
import { OrdersQueries } from './orders.queries.js';
import { OrdersService } from './orders.service.js';

const Star = z.object({ starred: z.boolean() });
const Link = z.object({ channelSku: z.string().min(1).max(60), sku: z.string().min(1).max(60) });
const by = (person: Person) => ({ personId: person.id, at: new Date() });

@Controller('orders')
export class OrdersController {
  constructor(
    private readonly queries: OrdersQueries,
    private readonly orders: OrdersService,
  ) {}

  @Get()
  @Roles(...ALL_ROLES)
  list(@Query() query: unknown): Promise<Page<OrderRow> & { count: number }> {
    return this.queries.list(parse(OrderQuery, query));
  }

  @Get(':id')
  @Roles(...ALL_ROLES)
  one(@Param('id') id: string): Promise<OrderView> {
    return this.queries.one(parse(Id, id));
  }

  @Post(':id/park')
  @HttpCode(200)
  @Roles('lead', 'office')
  park(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.park(parse(Id, id), parse(Park, body).reason, by(me));
  }

  @Post(':id/unpark')
  @HttpCode(200)
  @Roles('lead', 'office')
  unpark(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.orders.unpark(parse(Id, id), by(me));
  }

  @Post(':id/cancel')
  @HttpCode(200)
  @Roles('lead', 'office')
  cancel(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.cancel(parse(Id, id), parse(Cancel, body).reason, by(me));
  }

  @Post(':id/star')
  @HttpCode(200)
  @Roles('lead', 'office')
  star(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.star(parse(Id, id), parse(Star, body).starred, by(me));
  }

  @Post('link')
  @HttpCode(200)
  @Roles('lead', 'office')
  async link(@Body() body: unknown, @Me() me: Person): Promise<{ freed: number }> {
    const { channelSku, sku } = parse(Link, body);
    return { freed: await this.orders.link(channelSku, sku, by(me)) };
  }
}
