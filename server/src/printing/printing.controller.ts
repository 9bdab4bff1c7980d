import {
  Id,
  LabelForm,
  PaperTemplate,
  PaperTemplateIn,
  type Person,
  PlaceQuery,
  WallLetter,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { ParcelNo } from '../parcels/parcels.module.js';
import { PeopleDesk } from '../people/people.module.js';
import { PrintingService } from './printing.service.js';
import { TagPrinting } from './tags.service.js';
import { PaperTemplates } from './templates.service.js';

const LabelsQuery = z.object({ form: LabelForm });
/** From one code to another; without them all are printed. */
const ToteLabelsQuery = LabelsQuery.extend({
  from: z.string().max(20).default(''),
  to: z.string().max(20).default(''),
});
const PlaceLabelsQuery = PlaceQuery.pick({ words: true, kind: true }).extend({ form: LabelForm });
const ProductLabelsQuery = z.object({
  form: LabelForm,
  count: z.coerce.number().int().min(1).max(600).default(1),
});

@Controller()
export class PrintingController {
  constructor(
    private readonly printing: PrintingService,
    private readonly templates: PaperTemplates,
    private readonly tags: TagPrinting,
    private readonly people: PeopleDesk,
  ) {}

  /** A badge, also one that was lost: printed as often as wanted. */
  @Get('people/:id/badge.pdf')
  @May('people.change')
  @Answers('file')
  async badge(@Param('id') id: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.tags.badge(await this.people.badge(parse(Id, id))));
  }

  /** Labels of the places that the list's question finds. */
  @Get('stock/places/labels.pdf')
  @SignedIn()
  @Takes({ query: PlaceLabelsQuery })
  @Answers('file')
  async placeLabels(@Query() query: unknown, @Res() response: Response): Promise<void> {
    const { words, kind, form } = parse(PlaceLabelsQuery, query);
    response.type('application/pdf').send(await this.tags.places(words, kind, form));
  }

  @Get('stock/totes/labels.pdf')
  @SignedIn()
  @Takes({ query: ToteLabelsQuery })
  @Answers('file')
  async toteLabels(@Query() query: unknown, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.tags.totes(parse(ToteLabelsQuery, query)));
  }

  @Get('stock/walls/:wall/labels.pdf')
  @SignedIn()
  @Takes({ query: LabelsQuery })
  @Answers('file')
  async cellLabels(
    @Param('wall') wall: string,
    @Query() query: unknown,
    @Res() response: Response,
  ): Promise<void> {
    const pdf = await this.tags.cells(parse(WallLetter, wall), parse(LabelsQuery, query).form);
    response.type('application/pdf').send(pdf);
  }

  @Get('products/:sku/labels.pdf')
  @SignedIn()
  @Takes({ query: ProductLabelsQuery })
  @Answers('file')
  async productLabels(
    @Param('sku') sku: string,
    @Query() query: unknown,
    @Res() response: Response,
  ): Promise<void> {
    const { count, form } = parse(ProductLabelsQuery, query);
    response.type('application/pdf').send(await this.tags.product(sku, count, form));
  }

  @Get('orders/:id/slip.pdf')
  @SignedIn()
  @Answers('file')
  async slip(@Param('id') id: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.slip(parse(Id, id)));
  }

  /** What goes abroad with a parcel, and the note of its dangerous goods. */
  @Get('parcels/:no/customs.pdf')
  @May('labels.print')
  @Answers('file')
  async customs(@Param('no') no: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.customs(parse(ParcelNo, no)));
  }

  @Get('orders/:id/invoice.pdf')
  @May('invoices.print')
  @Answers('file')
  async invoice(@Param('id') id: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.invoice(parse(Id, id)));
  }

  @Get('printing/templates')
  @SignedIn()
  @Answers(z.array(PaperTemplate))
  list(): Promise<PaperTemplate[]> {
    return this.templates.list();
  }

  @Post('printing/templates')
  @HttpCode(200)
  @May('papers.change')
  @Takes({ body: PaperTemplateIn })
  @Answers('nothing')
  save(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.templates.save(parse(PaperTemplateIn, body), by(me));
  }

  @Post('printing/templates/:id/remove')
  @HttpCode(200)
  @May('papers.change')
  @Answers('nothing')
  remove(@Param('id') id: string): Promise<void> {
    return this.templates.remove(parse(Id, id));
  }

  @Get('printing/scan-sheet.pdf')
  @SignedIn()
  @Answers('file')
  async scanSheet(@Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.scanSheet());
  }
}
