import { ImportQuery, type ImportReport, type Person } from '@auk/contract';
import { Controller, Get, HttpCode, Post, Query, Req } from '@nestjs/common';
import { Db } from '../database/db.js';
import { ALL_ROLES, Me, Roles, type SignedRequest } from '../http/access.js';
import { parse } from '../http/parse.js';
import { Malformed } from '../http/problem.js';
import { ImportsService } from './imports.service.js';

@Controller()
export class ImportsController {
  constructor(
    private readonly imports: ImportsService,
    private readonly db: Db,
  ) {}

  @Get('channels')
  @Roles(...ALL_ROLES)
  channels(): Promise<{ code: string; name: string }[]> {
    return this.db.rows('SELECT code, name FROM channel ORDER BY name');
  }

  /** The body is the file itself, as text/csv. */
  @Post('imports/orders')
  @HttpCode(200)
  @Roles('lead', 'office')
  orders(@Query() query: unknown, @Req() request: SignedRequest, @Me() me: Person): Promise<ImportReport> {
    const { channel, name, commit } = parse(ImportQuery, query);
    if (!Buffer.isBuffer(request.body))
      throw new Malformed('The file must be sent as text/csv', 'Drop a CSV file on the page.');
    return this.imports.orders(channel, name, request.body, commit === 'yes', {
      personId: me.id,
      at: new Date(),
    });
  }
}
