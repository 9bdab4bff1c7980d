import {
  AcceptIn,
  Among,
  BulkAnswer,
  BulkIn,
  Cancel,
  CopyIn,
  DecideIn,
  DraftJudged,
  FinishDraft,
  Id,
  type Judged,
  KeepQuestion,
  Kept,
  KeptQuestion,
  KnownBuyer,
  LatinIn,
  LatinView,
  MadeId,
  MergeIn,
  Neighbours,
  NewOrder,
  NoteIn,
  OrderCount,
  OrderEdit,
  OrderFilter,
  OrderPageAnswer,
  OrderQuery,
  OrderRow,
  OrderView,
  type Page,
  Park,
  type Person,
  PreferenceIn,
  ScanIn,
  SplitIn,
  TagIn,
  Unpark,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { DeskService } from './desk.service.js';
import { OrderEditing } from './editing.service.js';
import { LatinAddresses } from './latin.service.js';
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
    private readonly latins: LatinAddresses,
    private readonly desk: DeskService,
  ) {}

  @Get()
  @SignedIn()
  @Takes({ query: OrderQuery })
  @Answers(OrderPageAnswer)
  list(@Query() query: unknown): Promise<Page<OrderRow> & { count: OrderCount }> {
    return this.lists.list(parse(OrderQuery, query), new Date());
  }

  @Get('among')
  @SignedIn()
  @Takes({ query: OrderFilter })
  @Answers(Among)
  among(@Query() query: unknown): Promise<Among> {
    return this.lists.among(parse(OrderFilter, query), new Date());
  }

  @Get('questions')
  @SignedIn()
  @Answers(z.array(KeptQuestion))
  questions(@Me() me: Person): Promise<KeptQuestion[]> {
    return this.desk.questions(me.id, new Date());
  }

  @Post('questions')
  @HttpCode(200)
  @SignedIn()
  @Takes({ body: KeepQuestion })
  @Answers('nothing')
  keep(@Body() body: unknown, @Me() me: Person): Promise<void> {
    const { name, question } = parse(KeepQuestion, body);
    return this.desk.keep(name, question, by(me));
  }

  @Post('questions/:id/forget')
  @HttpCode(200)
  @SignedIn()
  @Answers('nothing')
  forget(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.desk.forget(parse(Id, id), by(me));
  }

  @Get('preferences/:name')
  @SignedIn()
  @Answers(Kept)
  async preference(@Param('name') name: string, @Me() me: Person): Promise<{ value: unknown }> {
    return { value: await this.desk.preference(me.id, parse(Name, name)) };
  }

  @Post('preferences/:name')
  @HttpCode(200)
  @SignedIn()
  @Takes({ body: PreferenceIn })
  @Answers('nothing')
  setPreference(@Param('name') name: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.desk.setPreference(parse(Name, name), parse(PreferenceIn, body).value, by(me));
  }

  @Get('buyers')
  @May('orders.change')
  @Takes({ query: Words })
  @Answers(z.array(KnownBuyer))
  buyers(@Query() query: unknown): Promise<KnownBuyer[]> {
    return this.queries.buyers(parse(Words, query).words);
  }

  @Post('bulk')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: BulkIn })
  @Answers(z.array(BulkAnswer))
  bulk(@Body() body: unknown, @Me() me: Person): Promise<BulkAnswer[]> {
    return this.orders.bulk(parse(BulkIn, body), by(me));
  }

  @Post('merge')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: MergeIn })
  @Answers(MadeId)
  async merge(@Body() body: unknown, @Me() me: Person): Promise<{ id: string }> {
    return { id: await this.typed.merge(parse(MergeIn, body).ids, by(me)) };
  }

  @Post()
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: NewOrder })
  @Answers(MadeId)
  async create(@Body() body: unknown, @Me() me: Person): Promise<{ id: string }> {
    return { id: await this.typed.create(parse(NewOrder, body).channel, by(me)) };
  }

  @Get(':id')
  @SignedIn()
  @Answers(OrderView)
  one(@Param('id') id: string): Promise<OrderView> {
    return this.queries.one(parse(Id, id));
  }

  @Get(':id/beside')
  @SignedIn()
  @Takes({ query: OrderQuery })
  @Answers(Neighbours)
  beside(
    @Param('id') id: string,
    @Query() query: unknown,
  ): Promise<{ before: string | null; after: string | null }> {
    return this.lists.beside(parse(OrderQuery, query), parse(Id, id), new Date());
  }

  @Post(':id/edit')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: OrderEdit })
  @Answers('nothing')
  edit(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.editing.edit(parse(Id, id), parse(OrderEdit, body), by(me));
  }

  @Post(':id/scans')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: ScanIn })
  @Answers(DraftJudged)
  scan(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<Judged<object>> {
    return this.typed.scan(parse(Id, id), parse(ScanIn, body), by(me));
  }

  @Post(':id/finish')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: FinishDraft })
  @Answers('nothing')
  finish(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.typed.finish(parse(Id, id), parse(FinishDraft, body).version, by(me));
  }

  @Post(':id/copy')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: CopyIn })
  @Answers(MadeId)
  async copy(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<{ id: string }> {
    return { id: await this.typed.copy(parse(Id, id), parse(CopyIn, body ?? {}).free, by(me)) };
  }

  @Post(':id/split')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: SplitIn })
  @Answers(MadeId)
  async split(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<{ id: string }> {
    return { id: await this.typed.split(parse(Id, id), parse(SplitIn, body), by(me)) };
  }

  @Post(':id/differences/:difference')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: DecideIn })
  @Answers('nothing')
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
  @Takes({ body: Park })
  @Answers('nothing')
  park(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    const { reason, word } = parse(Park, body);
    return this.orders.park(parse(Id, id), reason, word, by(me));
  }

  @Post(':id/unpark')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: Unpark })
  @Answers('nothing')
  unpark(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.unpark(parse(Id, id), parse(Unpark, body).word, by(me));
  }

  @Post(':id/cancel')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: Cancel })
  @Answers('nothing')
  cancel(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.cancel(parse(Id, id), parse(Cancel, body).reason, by(me));
  }

  @Post(':id/star')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: Star })
  @Answers('nothing')
  star(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.star(parse(Id, id), parse(Star, body).starred, by(me));
  }

  @Post(':id/tag')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: TagIn })
  @Answers('nothing')
  tag(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    const { tag, on } = parse(TagIn, body);
    return this.orders.tag(parse(Id, id), tag, on, by(me));
  }

  @Post(':id/notes')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: NoteIn })
  @Answers('nothing')
  note(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.note(parse(Id, id), parse(NoteIn, body), by(me));
  }

  @Post(':id/notes/:note/remove')
  @HttpCode(200)
  @May('orders.change')
  @Answers('nothing')
  removeNote(@Param('id') id: string, @Param('note') note: string, @Me() me: Person): Promise<void> {
    return this.orders.removeNote(parse(Id, id), parse(Id, note), by(me));
  }

  /** The address in Latin letters: a proposal, and what was given. */
  @Get(':id/latin')
  @SignedIn()
  @Answers(LatinView)
  latin(@Param('id') id: string): Promise<LatinView> {
    return this.latins.of(parse(Id, id));
  }

  @Post(':id/latin')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: LatinIn })
  @Answers(LatinView)
  giveLatin(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<LatinView> {
    return this.latins.give(parse(Id, id), parse(LatinIn, body), by(me));
  }

  @Post(':id/accept')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: AcceptIn })
  @Answers('nothing')
  accept(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.accept(parse(Id, id), parse(AcceptIn, body).subject, by(me));
  }

  @Post(':id/paid')
  @HttpCode(200)
  @May('orders.change')
  @Answers('nothing')
  paid(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.orders.paid(parse(Id, id), by(me));
  }
}
