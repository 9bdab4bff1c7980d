import type { BulkAnswer, ParcelTemplateIn, ParcelTemplateView } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, fromJson, isDuplicate, newId, type Sql } from '../database/db.js';
import { NotHere, TooLate, Trouble } from '../http/problem.js';
import { Boxes } from '../products/products.module.js';
import { ChoiceService } from './choice.service.js';
import { orderToSend } from './compare.queries.js';
import { ParcelTemplate } from './parcelTemplate.entity.js';

/** Parcel templates: ready-made choices of service, box and what is asked, for orders one by one or many at once. */
@Injectable()
export class ParcelTemplates {
  constructor(
    private readonly db: Db,
    private readonly carriers: CarrierRegistry,
    private readonly boxes: Boxes,
    private readonly choice: ChoiceService,
  ) {}

  async list(sql: Sql = this.db): Promise<ParcelTemplateView[]> {
    const rows = await sql.of(ParcelTemplate).find({ order: { name: 'ASC' } });
    return Promise.all(
      rows.map(async ({ boxCode, options, at: _, ...t }) => ({
        ...t,
        box: boxCode,
        options: fromJson<ParcelTemplateView['options']>(options),
        carrierName: (await this.carriers.get(t.carrier, sql))?.name ?? t.carrier,
      })),
    );
  }

  /** Keeps a template, new or known; names are told apart. */
  async save({ id, box, options, ...columns }: ParcelTemplateIn, doer: Doer): Promise<void> {
    if (!(await this.carriers.get(columns.carrier)))
      throw new NotHere(`The carrier ${columns.carrier}`, 'Choose one of the carriers offered.');
    if (box !== null && !(await this.boxes.all()).boxes.some(b => b.code === box))
      throw new NotHere(`The box ${box}`, 'Choose one of the boxes offered.');
    const row = {
      id: id ?? newId(),
      ...columns,
      boxCode: box,
      options: JSON.stringify(options),
      at: doer.at,
    };
    try {
      await this.db.tx(doer, async tx => {
        if (id && !(await tx.of(ParcelTemplate).existsBy({ id }))) throw new NotHere('That template');
        if (id) await tx.of(ParcelTemplate).update(id, row as never);
        else await tx.insert(ParcelTemplate, [row]);
        await tx.tell('carriers', '');
      });
    } catch (error) {
      if (isDuplicate(error))
        throw new TooLate(`There is a template called ${columns.name}.`, 'Give it another name.');
      throw error;
    }
  }

  remove(id: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const { affected } = await tx.of(ParcelTemplate).delete({ id });
      if (!affected) throw new NotHere('That template');
      await tx.tell('carriers', '');
    });
  }

  /** Lets orders leave as a template says; each gives its own answer. */
  async use(id: string, orderIds: readonly string[], doer: Doer): Promise<BulkAnswer[]> {
    const t = (await this.list()).find(x => x.id === id);
    if (!t) throw new NotHere('That template');
    const { carrier, account, service, serviceName, box, options } = t;
    const chosen = { carrier, account, service, name: serviceName, boxes: box ? [box] : [], options };
    const answers: BulkAnswer[] = [];
    for (const orderId of orderIds) {
      const number = (await orderToSend(this.db, orderId))?.channelNumber ?? '';
      try {
        await this.choice.choose(orderId, chosen, doer);
        answers.push({ id: orderId, number, done: true, says: `${t.name}: ${serviceName}` });
      } catch (error) {
        if (!(error instanceof Trouble)) throw error;
        answers.push({ id: orderId, number, done: false, says: error.problem.detail });
      }
    }
    return answers;
  }
}
