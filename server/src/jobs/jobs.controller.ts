import { Id } from '@auk/contract';
import { Controller, HttpCode, Param, Post } from '@nestjs/common';
import { z } from 'zod';
import { May } from '../http/access.js';
import { Answers } from '../http/api.js';
import { parse } from '../http/parse.js';
import { JobsService } from './jobs.service.js';

@Controller('jobs')
export class JobsController {
  constructor(private readonly jobs: JobsService) {}

  /** Tries again what stands under Needs a person. */
  @Post(':id/retry')
  @HttpCode(200)
  @May('channels.pull')
  @Answers(z.object({}))
  async retry(@Param('id') id: string): Promise<object> {
    await this.jobs.retry(parse(Id, id));
    return {};
  }
}
