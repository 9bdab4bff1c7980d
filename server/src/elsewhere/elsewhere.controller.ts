import { CenterIn, CenterView, ElsewhereView, Id, NetworkStock, type Person, SentIn } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Centers } from './centers.service.js';
import { Elsewhere } from './elsewhere.service.js';
import { PurchaseFiles } from './files.service.js';

const PurchaseNo = z
  .string()
  .regex(/^PO-\d{1,9}$/i, 'is not the number of a purchase order')
  .transform(no => Number(no.slice('PO-'.length)));

@Controller('elsewhere')
export class ElsewhereController {
  constructor(
    private readonly elsewhere: Elsewhere,
    private readonly files: PurchaseFiles,
    private readonly centers: Centers,
  ) {}

  /** Who sends an order in the house's stead; null when the house does. */
  @Get('orders/:id')
  @SignedIn()
  @Answers(z.object({ sent: ElsewhereView.nullable() }))
  async view(@Param('id') id: string): Promise<{ sent: ElsewhereView | null }> {
    return { sent: await this.elsewhere.view(parse(Id, id)) };
  }

  @Post('orders/:id/left')
  @HttpCode(200)
  @May('orders.change')
  @Takes({ body: SentIn })
  @Answers('nothing')
  left(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.elsewhere.left(parse(Id, id), parse(SentIn, body), by(me));
  }

  @Post('orders/:id/back')
  @HttpCode(200)
  @May('orders.change')
  @Answers('nothing')
  back(@Param('id') id: string, @Me() me: Person): Promise<void> {
    return this.elsewhere.back(parse(Id, id), by(me));
  }

  @Get('centers')
  @SignedIn()
  @Answers(z.array(CenterView))
  centerList(): Promise<CenterView[]> {
    return this.centers.list();
  }

  @Post('centers')
  @HttpCode(200)
  @May('channels.connect')
  @Takes({ body: CenterIn })
  @Answers('nothing')
  connect(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.centers.connect(parse(CenterIn, body), by(me));
  }

  /** What lies at a center, as it tells now. */
  @Get('centers/:name/stock')
  @SignedIn()
  @Answers(NetworkStock)
  stock(@Param('name') name: string): Promise<NetworkStock> {
    return this.centers.stockNow(name);
  }

  @Get('purchases/:no/csv')
  @SignedIn()
  @Answers('file')
  async csv(@Param('no') no: string, @Res() response: Response): Promise<void> {
    const number = parse(PurchaseNo, no);
    response
      .type('text/csv')
      .setHeader('content-disposition', `attachment; filename="PO-${number}.csv"`)
      .send(await this.files.csv(number));
  }

  @Get('purchases/:no/xml')
  @SignedIn()
  @Answers('file')
  async xml(@Param('no') no: string, @Res() response: Response): Promise<void> {
    const number = parse(PurchaseNo, no);
    response
      .type('application/xml')
      .setHeader('content-disposition', `attachment; filename="PO-${number}.xml"`)
      .send(await this.files.ubl(number));
  }
}
