import type { CallsIt, Moment } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Sql } from '../database/db.js';
import type { RunningBook } from './books.service.js';
import { RuleGrounds } from './grounds.service.js';
import { RuleNames } from './names.service.js';
import { type Prepared, prepared } from './prepared.js';

/** Prepares a book with the house's money, templates and names of services. */
@Injectable()
export class Preparing {
  constructor(
    private readonly grounds: RuleGrounds,
    private readonly names: RuleNames,
  ) {}

  async of(sql: Sql, running: RunningBook, moment: Moment, button = ''): Promise<Prepared> {
    const called = new Map((await this.names.services(sql)).map(s => [s.code, s.name]));
    const calls: CallsIt = (kind, code) => (kind === 'service' ? (called.get(code) ?? code) : code);
    return prepared(running, moment, {
      currency: await this.grounds.currency(sql),
      templates: await this.grounds.templatesByName(sql),
      calls,
      button,
    });
  }
}
