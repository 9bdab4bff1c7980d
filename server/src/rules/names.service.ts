import type { RuleWords } from '@auk/contract';
import { type ActionName, PRODUCT_FACTS } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Sql } from '../database/db.js';
import { daysAround, HouseService } from '../house/house.module.js';
import { Boxes } from '../products/products.module.js';
import { ParcelTemplates, serviceCode } from '../rating/rating.module.js';
import {
  categoriesInUse,
  channelNames,
  mailNames,
  paperNames,
  productNames,
  tagsInUse,
} from './names.queries.js';

/** What rules may name, and what it is called. */
@Injectable()
export class RuleNames {
  constructor(
    private readonly db: Db,
    private readonly carriers: CarrierRegistry,
    private readonly boxes: Boxes,
    private readonly templates: ParcelTemplates,
    private readonly house: HouseService,
  ) {}

  /** Everything that may be chosen in a rule. */
  async words(): Promise<RuleWords> {
    const { boxes } = await this.boxes.all();
    const papers = await paperNames(this.db);
    return {
      services: await this.services(this.db),
      templates: (await this.templates.list(this.db)).map(t => t.name),
      slips: papers.filter(p => p.kind === 'slip').map(p => p.name),
      papers: [...new Set(papers.filter(p => p.kind !== 'slip' && p.kind !== 'invoice').map(p => p.name))],
      mails: [...new Set((await mailNames(this.db)).map(m => m.name))],
      boxes: boxes.filter(b => !b.retired).map(({ code, name }) => ({ code, name })),
      channels: (await channelNames(this.db)).map(c => c.name),
      products: await productNames(this.db),
      categories: (await categoriesInUse(this.db)).map(c => c.category),
      properties: PRODUCT_FACTS.filter(f => f.kind === 'flag').map(f => f.words),
      tags: (await tagsInUse(this.db)).map(t => t.tag),
    };
  }

  /** The names that actions may be given, by action. */
  async known(): Promise<Map<ActionName, { what: string; names: ReadonlySet<string> }>> {
    const { services, templates, boxes, slips, papers, mails } = await this.words();
    const serviceNames = { what: 'the service', names: new Set(services.map(s => s.code)) };
    return new Map([
      ['send by', serviceNames],
      ['cheapest', serviceNames],
      ['template', { what: 'the template', names: new Set(templates) }],
      ['box', { what: 'the box', names: new Set(boxes.map(b => b.code)) }],
      ['slip', { what: 'the slip', names: new Set(slips) }],
      ['papers', { what: 'the papers', names: new Set(papers) }],
      ['mail', { what: 'the mail', names: new Set(mails) }],
    ]);
  }

  /** All services of all accounts whose rates are known here, with their carriers. */
  async services(sql: Sql): Promise<{ code: string; name: string }[]> {
    const { zone } = await this.house.warehouse(sql);
    const accounts = await this.carriers.serving(sql, daysAround(new Date(), zone).today);
    return accounts
      .flatMap(({ carrier, account, sheet }) =>
        (sheet?.services ?? []).map(s => ({
          code: serviceCode(carrier.code, s.service, account.number),
          name: [carrier.name, s.name, ...(account.number === '' ? [] : [account.name])].join(', '),
        })),
      )
      .sort((a, b) => a.name.localeCompare(b.name));
  }
}
