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
  heading: '',
  message: '',
  prices: false,
  metric: false,
};

/** Templates of slips and invoices, chosen by the order's channel and destination: the first that fits, from the top. */
@Injectable()
export class PaperTemplates {
  constructor(private readonly db: Db) {}

  async list(): Promise<PaperTemplate[]> {
    const rows = await templates(this.db);
    return rows.map(r => ({ ...r, channel: r.channel ?? '', prices: !!r.prices, metric: !!r.metric }));
  }

  /** The template for an order. `abroad` fits every country but the house's own. */
  async choose(
    kind: PaperTemplate['kind'],
    channel: string,
    country: string,
    home: string,
  ): Promise<PaperTemplate> {
    const fits = (t: PaperTemplate) =>
      t.kind === kind &&
      (t.channel === '' || t.channel === channel) &&
      (t.country === '' || t.country === country || (t.country === 'abroad' && country !== home));
    return (await this.list()).find(fits) ?? { ...PLAIN, kind };
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
