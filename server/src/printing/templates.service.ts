import type { PaperTemplate, PaperTemplateIn } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, NONE, newId } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { PaperTemplate as TemplateEntity } from './paperTemplate.entity.js';
import { channelByCode, templates } from './templates.queries.js';

/** What a paper looks like where no template fits. */
const PLAIN: Omit<PaperTemplate, 'kind'> = {
  id: NONE,
  name: 'Plain',
  position: 0,
  channel: '',
  country: '',
  buyer: '',
  heading: '',
  message: '',
  prices: false,
  metric: false,
};

/** What a template is chosen by. */
export interface PaperFor {
  channel: string;
  country: string;
  home: string;
  mail: string;
  /** Names of templates that rules decided on, for the slip and for what goes abroad. */
  byRule?: { slip?: unknown; papers?: unknown };
}

/** Templates of papers, chosen by the order's channel, destination and buyer: the first that fits, from the top. */
@Injectable()
export class PaperTemplates {
  constructor(private readonly db: Db) {}

  async list(): Promise<PaperTemplate[]> {
    const rows = await templates(this.db);
    return rows.map(r => ({ ...r, channel: r.channel ?? '', prices: !!r.prices, metric: !!r.metric }));
  }

  /** The template for an order: the one that a rule named, else the first that fits. `abroad` fits every country but the house's own; letters of a buyer fit where they stand in the mail address. */
  async choose(kind: PaperTemplate['kind'], order: PaperFor): Promise<PaperTemplate> {
    const fits = (t: PaperTemplate) =>
      t.kind === kind &&
      (t.channel === '' || t.channel === order.channel) &&
      (t.country === '' ||
        t.country === order.country ||
        (t.country === 'abroad' && order.country !== order.home)) &&
      (t.buyer === '' || order.mail.toLowerCase().includes(t.buyer));
    const named = kind === 'slip' ? order.byRule?.slip : kind === 'invoice' ? null : order.byRule?.papers;
    const all = await this.list();
    return all.find(t => t.kind === kind && t.name === named) ?? all.find(fits) ?? { ...PLAIN, kind };
  }

  /** Keeps a template, new or known, at its position. */
  save(input: PaperTemplateIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const { id, channel, ...columns } = input;
      const channelId = channel ? (await channelByCode(tx, channel))?.id : null;
      if (channelId === undefined)
        throw new NotHere(`The channel ${channel}`, 'Choose one of the channels offered.');
      await tx.upsert(
        TemplateEntity,
        [{ id: id ?? newId(), ...columns, channelId }],
        [...(Object.keys(columns) as (keyof typeof columns)[]), 'channelId'],
      );
    });
  }

  async remove(id: string): Promise<void> {
    const { affected } = await this.db.of(TemplateEntity).delete({ id });
    if (!affected) throw new NotHere('That template');
  }
}
