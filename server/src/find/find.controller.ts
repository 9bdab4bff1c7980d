import { FindQuery, FoundAll } from '@auk/contract';
import { Controller, Get, Query } from '@nestjs/common';
import { SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { FindService } from './find.service.js';

@Controller('find')
export class FindController {
  constructor(private readonly finder: FindService) {}

  @Get()
  @SignedIn()
  @Takes({ query: FindQuery })
  @Answers(FoundAll)
  find(@Query() query: unknown): Promise<FoundAll> {
    return this.finder.find(parse(FindQuery, query).text);
  }
}
