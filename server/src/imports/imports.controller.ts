import {
  can,
  ExportQuery,
  Id,
  IMPORT_KINDS,
  ImportQuery,
  ImportReport,
  ImportRun,
  ImportRunQuery,
  type Person,
} from '@auk/contract';
import { Controller, Get, Header, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn, type SignedRequest } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { Malformed, NotAllowed } from '../http/problem.js';
import { ExportsService, toCsv, toXlsx } from './exports.service.js';
import { ImportsService } from './imports.service.js';
import { ImportRuns } from './runs.service.js';

const Kind = z.enum(IMPORT_KINDS);
const What = z.enum(['orders', 'products', 'listings', 'parcels']);
const TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
};

/** Exports that name buyers. */
const WITH_BUYERS = new Set(['orders', 'parcels']);

@Controller()
export class ImportsController {
  constructor(
    private readonly imports: ImportsService,
    private readonly runs: ImportRuns,
    private readonly exports: ExportsService,
  ) {}

  /** What a file would do. The body is the file itself, CSV or XLSX. */
  @Post('imports/:kind')
  @HttpCode(200)
  @May('files.bring')
  @Takes({ query: ImportQuery })
  @Answers(ImportReport)
  look(
    @Param('kind') kind: string,
    @Query() query: unknown,
    @Req() request: SignedRequest,
  ): Promise<ImportReport> {
    return this.imports.look(parse(Kind, kind), parse(ImportQuery, query), fileOf(request));
  }

  /** Takes the good things of the file in, by a job; the answer says how far it is. */
  @Post('imports/:kind/runs')
  @HttpCode(200)
  @May('files.bring')
  @Takes({ query: ImportRunQuery })
  @Answers(ImportRun)
  begin(
    @Param('kind') kind: string,
    @Query() query: unknown,
    @Req() request: SignedRequest,
    @Me() me: Person,
  ): Promise<ImportRun> {
    return this.runs.begin(parse(Kind, kind), parse(ImportRunQuery, query), fileOf(request), by(me));
  }

  @Get('imports/runs')
  @May('files.bring')
  @Answers(z.array(ImportRun))
  recent(): Promise<ImportRun[]> {
    return this.runs.recent();
  }

  @Get('imports/runs/:id')
  @May('files.bring')
  @Answers(ImportRun)
  run(@Param('id') id: string): Promise<ImportRun> {
    return this.runs.one(parse(Id, id));
  }

  /** The rows of the file that are left out, to mend and drop again. */
  @Post('imports/:kind/bad')
  @HttpCode(200)
  @May('files.bring')
  @Header('content-type', TYPES.csv)
  @Header('content-disposition', 'attachment; filename="rows to mend.csv"')
  @Takes({ query: ImportQuery })
  @Answers('file')
  bad(@Param('kind') kind: string, @Query() query: unknown, @Req() request: SignedRequest): Promise<string> {
    return this.imports.badRows(parse(Kind, kind), parse(ImportQuery, query), fileOf(request));
  }

  @Get('exports/:what')
  @SignedIn()
  @Takes({ query: ExportQuery })
  @Answers('file')
  async export(
    @Param('what') what: string,
    @Query() query: unknown,
    @Me() me: Person,
    @Res() response: Response,
  ): Promise<void> {
    const { format, ...filter } = parse(ExportQuery, query);
    const name = parse(What, what);
    if (WITH_BUYERS.has(name) && !can(me, 'orders.export'))
      throw new NotAllowed(
        'Files with the names and addresses of buyers are for some roles only.',
        'Ask an admin, who gives rights under Setup > People.',
      );
    const sheet = await {
      orders: () => this.exports.orders(filter, new Date()),
      products: () => this.exports.products(filter),
      listings: () => this.exports.listing(filter),
      parcels: () => this.exports.parcelList(),
    }[name]();
    const bytes = format === 'csv' ? toCsv(sheet) : await toXlsx(sheet);
    response
      .type(TYPES[format])
      .setHeader('content-disposition', `attachment; filename="${name}.${format}"`)
      .send(bytes);
  }
}

function fileOf(request: SignedRequest): Buffer {
  if (!Buffer.isBuffer(request.body))
    throw new Malformed('The file must be sent as it is', 'Drop a CSV or XLSX file on the page.');
  return request.body;
}
