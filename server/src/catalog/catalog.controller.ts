import {
  AliasIn,
  CodeIn,
  Decided,
  Id,
  LinkAnswer,
  LinkListings,
  ListingQuery,
  ListingRow,
  MakeProducts,
  MeasureCase,
  MeasuredRow,
  MeasureIn,
  NewProduct,
  type Page,
  type Person,
  PlaceView,
  ProductEdit,
  ProductHistory,
  ProductQuery,
  ProductRow,
  ProductsEdit,
  pageOf,
} from '@auk/contract';
import { Body, Controller, Get, Header, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn, type SignedRequest } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Malformed } from '../http/problem.js';
import { CatalogService, ListingsQueries } from '../products/products.module.js';
import { ListingsService } from './listings.service.js';
import { Measures } from './measures.service.js';
import { Pictures } from './pictures.service.js';
import { ProductsService } from './products.service.js';

const LinkSku = z.object({
  channelSku: z.string().min(1).max(60),
  sku: z.string().min(1).max(60),
  units: z.number().int().min(1).max(1000).default(1),
});
const PictureId = z.uuid();

@Controller()
export class CatalogController {
  constructor(
    private readonly catalog: CatalogService,
    private readonly products: ProductsService,
    private readonly listings: ListingsService,
    private readonly listingsQueries: ListingsQueries,
    private readonly measures: Measures,
    private readonly pictures: Pictures,
  ) {}

  @Get('products')
  @SignedIn()
  @Takes({ query: ProductQuery })
  @Answers(pageOf(ProductRow))
  list(@Query() query: unknown): Promise<Page<ProductRow>> {
    return this.catalog.list(parse(ProductQuery, query));
  }

  @Post('products')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: NewProduct })
  @Answers('nothing')
  create(@Body() body: unknown, @Me() me: Person): Promise<void> {
    const { sku, fields } = parse(NewProduct, body);
    return this.products.create(sku, fields, by(me));
  }

  @Post('products/edit')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: ProductsEdit })
  @Answers('nothing')
  editMany(@Body() body: unknown, @Me() me: Person): Promise<void> {
    const { skus, fields } = parse(ProductsEdit, body);
    return this.products.editMany(skus, fields, by(me));
  }

  @Get('products/:sku')
  @SignedIn()
  @Answers(ProductRow)
  one(@Param('sku') sku: string): Promise<ProductRow> {
    return this.catalog.bySku(sku);
  }

  @Get('products/:sku/history')
  @SignedIn()
  @Answers(z.array(ProductHistory))
  history(@Param('sku') sku: string): Promise<ProductHistory[]> {
    return this.catalog.history(sku);
  }

  @Post('products/:sku')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: ProductEdit })
  @Answers('nothing')
  edit(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    const { version, fields } = parse(ProductEdit, body);
    return this.products.edit(sku, version, fields, by(me));
  }

  @Post('products/:sku/codes')
  @HttpCode(200)
  @May('codes.give')
  @Takes({ body: CodeIn })
  @Answers(z.object({ freed: z.number() }))
  giveCode(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<{ freed: number }> {
    return this.products.giveCode(sku, parse(CodeIn, body), by(me));
  }

  /** Size and weight of a case, as measured. */
  @Post('products/:sku/codes/measure')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: MeasureCase })
  @Answers('nothing')
  measureCase(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.measures.measureCase(sku, parse(MeasureCase, body), by(me));
  }

  @Post('products/:sku/codes/remove')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: AliasIn })
  @Answers('nothing')
  takeCode(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.products.takeCode(sku, parse(AliasIn, body).code, by(me));
  }

  @Post('products/:sku/aliases')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: AliasIn })
  @Answers('nothing')
  addAlias(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.products.alias(sku, parse(AliasIn, body).code, true, by(me));
  }

  @Post('products/:sku/aliases/remove')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: AliasIn })
  @Answers('nothing')
  removeAlias(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.products.alias(sku, parse(AliasIn, body).code, false, by(me));
  }

  /** A size as it was measured at a bench; it counts there at once, and for the product when somebody has looked at it. */
  @Post('products/:sku/measures')
  @HttpCode(200)
  @May('pack')
  @Takes({ body: MeasureIn })
  @Answers('nothing')
  measure(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.measures.measure(sku, parse(MeasureIn, body), by(me));
  }

  @Get('measures')
  @SignedIn()
  @Answers(z.array(MeasuredRow))
  openMeasures(): Promise<MeasuredRow[]> {
    return this.measures.open();
  }

  @Post('measures/:id')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: Decided })
  @Answers('nothing')
  decideMeasure(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.measures.decide(parse(Id, id), parse(Decided, body).take, by(me));
  }

  /** The body is the picture itself. */
  @Post('products/:sku/picture')
  @HttpCode(200)
  @May('products.change')
  @Answers('nothing')
  picture(@Param('sku') sku: string, @Req() request: SignedRequest, @Me() me: Person): Promise<void> {
    if (!Buffer.isBuffer(request.body))
      throw new Malformed('The picture must be sent as a file', 'Drop a picture on the page.');
    return this.pictures.keep(sku, request.body, by(me));
  }

  @Post('products/:sku/remove')
  @HttpCode(200)
  @May('products.remove')
  @Answers('nothing')
  remove(@Param('sku') sku: string, @Me() me: Person): Promise<void> {
    return this.products.remove(sku, by(me));
  }

  @Get('pictures/:id')
  @SignedIn()
  @Header('cache-control', 'private, max-age=31536000, immutable')
  @Header('x-content-type-options', 'nosniff')
  @Answers('file')
  async pictureFile(@Param('id') id: string, @Res() response: Response): Promise<void> {
    const { type, bytes } = await this.pictures.file(parse(PictureId, id));
    response.type(type).send(bytes);
  }

  @Get('listings')
  @SignedIn()
  @Takes({ query: ListingQuery })
  @Answers(pageOf(ListingRow))
  allListings(@Query() query: unknown): Promise<Page<ListingRow>> {
    return this.listingsQueries.list(parse(ListingQuery, query));
  }

  @Post('listings/link')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: LinkListings })
  @Answers(LinkAnswer)
  link(@Body() body: unknown, @Me() me: Person): Promise<LinkAnswer> {
    return this.listings.link(parse(LinkListings, body), by(me));
  }

  @Post('listings/link-sku')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: LinkSku })
  @Answers(LinkAnswer)
  linkSku(@Body() body: unknown, @Me() me: Person): Promise<LinkAnswer> {
    const { channelSku, sku, units } = parse(LinkSku, body);
    return this.listings.linkSku(channelSku, sku, units, by(me));
  }

  @Post('listings/products')
  @HttpCode(200)
  @May('products.change')
  @Takes({ body: MakeProducts })
  @Answers(LinkAnswer)
  makeProducts(@Body() body: unknown, @Me() me: Person): Promise<LinkAnswer> {
    return this.listings.makeProducts(parse(MakeProducts, body).listingIds, by(me));
  }

  @Get('places/:code')
  @SignedIn()
  @Answers(PlaceView)
  place(@Param('code') code: string): Promise<PlaceView> {
    return this.catalog.place(code);
  }
}
