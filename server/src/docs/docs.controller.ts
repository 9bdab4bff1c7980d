import { Controller, Get, Header } from '@nestjs/common';
import { z } from 'zod';
import { Anyone } from '../http/access.js';
import { Answers } from '../http/api.js';
import { OpenApi } from './openapi.service.js';
import { docsPage } from './page.js';

/** The API's documentation, beside the API itself. */
@Controller('api/docs')
export class DocsController {
  constructor(private readonly api: OpenApi) {}

  @Get()
  @Anyone()
  @Answers('file')
  @Header('content-type', 'text/html; charset=utf-8')
  page(): string {
    const { components } = this.api.document() as { components: { schemas: Record<string, unknown> } };
    return docsPage(this.api.operations(), components.schemas);
  }

  @Get('openapi.json')
  @Anyone()
  @Answers(z.looseObject({ openapi: z.string() }))
  document(): object {
    return this.api.document();
  }
}
