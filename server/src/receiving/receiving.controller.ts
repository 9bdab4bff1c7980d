import {
  fromCore,
  Id,
  type Judged,
  judgedOf,
  MadeNo,
  type Person,
  PurchaseOrderIn,
  PurchaseOrderRow,
  ReceiveOpen,
  ReceiveView,
  ScanIn,
  SupplierMail,
  SupplierView,
} from '@auk/contract';
import type { ReceiveState } from '@auk/core';
import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { PurchaseOrders } from './purchaseOrders.service.js';
import { Receiving } from './receiving.service.js';

const SessionId = z.uuid();

@Controller('receiving')
export class ReceivingController {
  constructor(
    private readonly orders: PurchaseOrders,
    private readonly receiving: Receiving,
  ) {}

  @Get()
  @SignedIn()
  @Answers(z.array(PurchaseOrderRow))
  list(): Promise<PurchaseOrderRow[]> {
    return this.orders.list(new Date());
  }

  @Post()
  @HttpCode(200)
  @May('purchases.change')
  @Takes({ body: PurchaseOrderIn })
  @Answers(MadeNo)
  async create(@Body() body: unknown, @Me() me: Person): Promise<{ no: string }> {
    return { no: await this.orders.create(parse(PurchaseOrderIn, body), by(me)) };
  }

  @Get('suppliers')
  @SignedIn()
  @Answers(z.array(SupplierView))
  suppliers(): Promise<SupplierView[]> {
    return this.orders.suppliers();
  }

  @Post('suppliers/:id/mail')
  @HttpCode(200)
  @May('purchases.change')
  @Takes({ body: SupplierMail })
  @Answers('nothing')
  supplierMail(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.orders.setMail(parse(Id, id), parse(SupplierMail, body).mail, by(me));
  }

  @Post(':no/open')
  @HttpCode(200)
  @May('receive')
  @Takes({ body: ReceiveOpen })
  @Answers(ReceiveView)
  open(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<ReceiveView> {
    return this.receiving.open(no, parse(ReceiveOpen, body).device, by(me));
  }

  @Post(':no/end')
  @HttpCode(200)
  @May('purchases.change')
  @Answers('nothing')
  end(@Param('no') no: string, @Me() me: Person): Promise<void> {
    return this.orders.end(no, by(me));
  }

  @Get('sessions/:id')
  @SignedIn()
  @Answers(ReceiveView)
  session(@Param('id') id: string): Promise<ReceiveView> {
    return this.receiving.view(parse(SessionId, id));
  }

  @Post('sessions/:id/scans')
  @HttpCode(200)
  @May('receive')
  @Takes({ body: ScanIn })
  @Answers(judgedOf(fromCore<ReceiveState>()))
  scan(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<Judged<ReceiveState>> {
    return this.receiving.scan(parse(SessionId, id), parse(ScanIn, body), by(me));
  }
}
