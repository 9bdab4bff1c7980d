import { Id, type PaperTemplate, PaperTemplateIn, type Person } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Res } from '@nestjs/common';
import type { Response } from 'express';
import { ALL_ROLES, by, Me, Roles } from '../http/access.js';
import { parse } from '../http/parse.js';
import { PrintingService } from './printing.service.js';
import { PaperTemplates } from './templates.service.js';

@Controller()
export class PrintingController {
  constructor(
    private readonly printing: PrintingService,
    private readonly templates: PaperTemplates,
  ) {}

  @Get('orders/:id/slip.pdf')
  @Roles(...ALL_ROLES)
  async slip(@Param('id') id: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.slip(parse(Id, id)));
  }

  @Get('orders/:id/invoice.pdf')
  @Roles('lead', 'office', 'packer')
  async invoice(@Param('id') id: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.invoice(parse(Id, id)));
  }

  @Get('printing/templates')
  @Roles(...ALL_ROLES)
  list(): Promise<PaperTemplate[]> {
    return this.templates.list();
  }

  @Post('printing/templates')
  @HttpCode(200)
  @Roles('lead')
  save(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.templates.save(parse(PaperTemplateIn, body), by(me));
  }

  @Post('printing/templates/:id/remove')
  @HttpCode(200)
  @Roles('lead')
  remove(@Param('id') id: string): Promise<void> {
    return this.templates.remove(parse(Id, id));
  }

  @Get('printing/scan-sheet.pdf')
  @Roles(...ALL_ROLES)
  async scanSheet(@Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.scanSheet());
  }
}
