import {
  AcceptIn,
  type Among,
  type BulkAnswer,
  BulkIn,
  Cancel,
  DecideIn,
  DraftScan,
  FinishDraft,
  Id,
  KeepQuestion,
  type KeptQuestion,
  type KnownBuyer,
  MergeIn,
  NewOrder,
  NoteIn,
  type OrderCount,
  OrderEdit,
  OrderFilter,
  OrderQuery,
  type OrderRow,
  type OrderView,
  type Page,
  Park,
  type Person,
  PreferenceIn,
  SplitIn,
  TagIn,
  Unpark,
} from '@auk/contract';
import type { Answer } from '@auk/core';
import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { parse } from '../http/parse.js';
import { DeskService } from './desk.service.js';
import { OrderEditing } from './editing.service.js';
import { OrderListQueries } from './list.queries.js';
import { OrdersQueries } from './orders.queries.js';
import { OrdersService } from './orders.service.js';
import { TypedOrders } from './typed.service.js';

const Star = z.object({ starred: z.boolean() });
const Words = z.object({ words: z.string().trim().min(2).max(80) });
const Name = z.string().regex(/^[a-z-]{1,40}$/);

@Controller('orders')
export class OrdersController {
  constructor(
    private readonly lists: OrderListQueries,
    private readonly queries: OrdersQueries,
    private readonly orders: OrdersService,
    private readonly editing: OrderEditing,
    private readonly typed: TypedOrders,
    private readonly desk: DeskService,
  ) {}

  @Get()
  @SignedIn()
  list(@Query() query: unknown): Promise<Page<OrderRow> & { count: OrderCount }> {
    return this.lists.list(parse(OrderQuery, query), new Date());
  }

  @Get('among')
  @SignedIn()
  among(@Query() query: unknown): Promise<Among> {
    return this.lists.among(parse(OrderFilter, query), new Date());
  }

  @Get('questions')
  @SignedIn()
  questions(@Me() me: Person): Promise<KeptQuestion[]> {
    return this.desk.questions(me.id, new Date());
  }

  @Post('questions')
  @HttpCode(200)
  @SignedIn()
  keep(@Body() body: unknown, @Me() me: Person): Promise<void> {
    const { name, question } = parse(KeepQuestion, body);
    return this.desk.keep(name, question, by(me));
  }

  @Post('questions/:id/forget')
  @HttpCode(200)
  @SignedIn()
  forget(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.desk.forget(parse(Id, id), by(me));
  }

  @Get('preferences/:name')
  @SignedIn()
  async preference(@Param('name') name: string, @Me() me: Person): Promise<{ value: unknown }> {
    return { value: await this.desk.preference(me.id, parse(Name, name)) };
  }

  @Post('preferences/:name')
  @HttpCode(200)
  @SignedIn()
  setPreference(@Param('name') name: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.desk.setPreference(parse(Name, name), parse(PreferenceIn, body).value, by(me));
  }

  @Get('buyers')
  @May('orders.change')
  buyers(@Query() query: unknown): Promise<KnownBuyer[]> {
    return this.queries.buyers(parse(Words, query).words);
  }

  @Post('bulk')
  @HttpCode(200)
  @May('orders.change')
  bulk(@Body() body: unknown, @Me() me: Person): Promise<BulkAnswer[]> {
    return this.orders.bulk(parse(BulkIn, body), by(me));
  }

  @Post('merge')
  @HttpCode(200)
  @May('orders.change')
  async merge(@Body() body: unknown, @Me() me: Person): Promise<{ id: string }> {
    return { id: await this.typed.merge(parse(MergeIn, body).ids, by(me)) };
  }

  @Post()
  @HttpCode(200)
  @May('orders.change')
  async create(@Body() body: unknown, @Me() me: Person): Promise<{ id: string }> {
    return { id: await this.typed.create(parse(NewOrder, body).channel, by(me)) };
  }

  @Get(':id')
  @SignedIn()
  one(@Param('id') id: string): Promise<OrderView> {
    return this.queries.one(parse(Id, id));
  }

  @Get(':id/beside')
  @SignedIn()
  beside(
    @Param('id') id: string,
    @Query() query: unknown,
  ): Promise<{ before: string | null; after: string | null }> {
    return this.lists.beside(parse(OrderQuery, query), parse(Id, id), new Date());
  }

  @Post(':id/edit')
  @HttpCode(200)
  @May('orders.change')
  edit(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.editing.edit(parse(Id, id), parse(OrderEdit, body), by(me));
  }

  @Post(':id/scans')
  @HttpCode(200)
  @May('orders.change')
  scan(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<Answer> {
    return this.typed.scan(parse(Id, id), parse(DraftScan, body), by(me));
  }

  @Post(':id/finish')
  @HttpCode(200)
  @May('orders.change')
  finish(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.typed.finish(parse(Id, id), parse(FinishDraft, body).version, by(me));
  }

  @Post(':id/copy')
  @HttpCode(200)
  @May('orders.change')
  async copy(@Param('id') id: string, @Me() me: Person): Promise<{ id: string }> {
    return { id: await this.typed.copy(parse(Id, id), by(me)) };
  }

  @Post(':id/split')
  @HttpCode(200)
  @May('orders.change')
  async split(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<{ id: string }> {
    return { id: await this.typed.split(parse(Id, id), parse(SplitIn, body), by(me)) };
  }

  @Post(':id/differences/:difference')
  @HttpCode(200)
  @May('orders.change')
  decide(
    @Param('id') id: string,
    @Param('difference') difference: string,
    @Body() body: unknown,
    @Me() me: Person,
  ): Promise<void> {
    return this.editing.decide(parse(Id, id), parse(Id, difference), parse(DecideIn, body).take, by(me));
  }

  @Post(':id/park')
  @HttpCode(200)
  @May('orders.change')
  park(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    const { reason, word } = parse(Park, body);
    return this.orders.park(parse(Id, id), reason, word, by(me));
  }

  @Post(':id/unpark')
  @HttpCode(200)
  @May('orders.change')
  unpark(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.unpark(parse(Id, id), parse(Unpark, body).word, by(me));
  }

  @Post(':id/cancel')
  @HttpCode(200)
  @May('orders.change')
  cancel(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.cancel(parse(Id, id), parse(Cancel, body).reason, by(me));
  }

  @Post(':id/star')
  @HttpCode(200)
  @May('orders.change')
  star(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.star(parse(Id, id), parse(Star, body).starred, by(me));
  }

  @Post(':id/tag')
  @HttpCode(200)
  @May('orders.change')
  tag(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    const { tag, on } = parse(TagIn, body);
    return this.orders.tag(parse(Id, id), tag, on, by(me));
  }

  @Post(':id/notes')
  @HttpCode(200)
  @May('orders.change')
  note(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.note(parse(Id, id), parse(NoteIn, body), by(me));
  }

  @Post(':id/notes/:note/remove')
  @HttpCode(200)
  @May('orders.change')
  removeNote(@Param('id') id: string, @Param('note') note: string, @Me() me: Person): Promise<void> {
    return this.orders.removeNote(parse(Id, id), parse(Id, note), by(me));
  }

  @Post(':id/accept')
  @HttpCode(200)
  @May('orders.change')
  accept(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.accept(parse(Id, id), parse(AcceptIn, body).subject, by(me));
  }

  @Post(':id/paid')
  @HttpCode(200)
  @May('orders.change')
  paid(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.orders.paid(parse(Id, id), by(me));
  }
}
