import type { PlaceView, ProductRow } from '@auk/contract';
import { Controller, Get, Param, Query } from '@nestjs/common';
import { z } from 'zod';
import { ALL_ROLES, Roles } from '../http/access.js';
import { parse } from '../http/parse.js';
import { CatalogService } from './catalog.service.js';

const Words = z.object({ words: z.string().trim().max(80).default('') });

@Controller()
export class CatalogController {
  constructor(private readonly catalog: CatalogService) {}

  @Get('products')
  @Roles(...ALL_ROLES)
  list(@Query() query: unknown): Promise<ProductRow[]> {
    return this.catalog.list(parse(Words, query).words);
  }

  @Get('products/:sku')
  @Roles(...ALL_ROLES)
  one(@Param('sku') sku: string): Promise<ProductRow> {
    return this.catalog.bySku(sku);
  }

  @Get('places/:code')
  @Roles(...ALL_ROLES)
  place(@Param('code') code: string): Promise<PlaceView> {
    return this.catalog.place(code);
  }
}
