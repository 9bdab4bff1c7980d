import { Id } from '@auk/contract';
import { Controller, Get, Param, Res } from '@nestjs/common';
import type { Response } from 'express';
import { ALL_ROLES, Roles } from '../http/access.js';
import { parse } from '../http/parse.js';
import { PrintingService } from './printing.service.js';

@Controller()
export class PrintingController {
  constructor(private readonly printing: PrintingService) {}

  @Get('orders/:id/slip.pdf')
  @Roles(...ALL_ROLES)
  async slip(@Param('id') id: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.slip(parse(Id, id)));
  }

  @Get('printing/scan-sheet.pdf')
  @Roles(...ALL_ROLES)
  async scanSheet(@Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.scanSheet());
  }
}
