import type { Alert, MailMoment, MailWord } from '@auk/contract';
import { formatMoney } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, newId, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { JobsService } from '../jobs/jobs.module.js';
import { StageNews, type StagePassed } from '../records/records.module.js';
import { AlertWish } from './alertWish.entity.js';
import { buyerToken } from './buyerLink.js';
import { filled } from './filled.js';
import { Mail } from './mail.entity.js';
import {
  alertsFor,
  headsOf,
  labelsOfOrder,
  mailToSend,
  ordersToWrite,
  templatesOf,
  type WrittenTo,
} from './mails.queries.js';
import { MailRefused, MailWays } from './ways.service.js';

/** A reason to write to a buyer. One cause of a moment is told once, whatever comes twice. */
export interface MailCause {
  orderId: string;
  moment: MailMoment;
  cause: string;
  words?: Partial<Record<MailWord, string>>;
  /** The name of the template that a rule wants. */
  template?: string;
}

const KIND = 'send mail';
const LANE = 'mails';
/** A mail server may be down for days; after this a person is asked. */
const TRY_HOURS = 72;

/** Stages that are told of; the others are how a house works. */
const MOMENT_OF: Partial<Record<string, MailMoment>> = {
  Clear: 'entered',
  Short: 'entered',
  Packed: 'packed',
  Labelled: 'labelled',
  Cancelled: 'cancelled',
};

/** What is written to a buyer by hand goes out even where nobody made a template for it. */
const PLAIN_MESSAGE = { inUse: true, subject: 'About your order {order}', text: '{message}\n\n{link}' };

/** Mails: written in the transaction of what caused them, and sent by a job until a mail server has taken or refused them. */
@Injectable()
export class Mails {
  constructor(
    private readonly db: Db,
    private readonly jobs: JobsService,
    private readonly house: HouseService,
    private readonly ways: MailWays,
    stages: StageNews,
  ) {
    jobs.register<{ mailId: string }>({
      kind: KIND,
      tryHours: TRY_HOURS,
      work: job => this.send(job.payload.mailId),
    });
    stages.listen((tx, rows) => this.ofStages(tx, rows));
  }

  /** Writes the mails that have a template in use for their order's channel; nothing where mails do not leave the house. */
  async due(tx: Tx, causes: readonly MailCause[]): Promise<void> {
    if (causes.length === 0) return;
    const way = await this.ways.way(tx);
    if (way.server === '') return;
    const templates = await templatesOf(tx, [...new Set(causes.map(c => c.moment))]);
    const orders = new Map(
      (await ordersToWrite(tx, [...new Set(causes.map(c => c.orderId))])).map(o => [o.id, o]),
    );
    for (const cause of causes) {
      const order = orders.get(cause.orderId);
      const fits = templates.filter(t => t.moment === cause.moment && t.name === (cause.template ?? ''));
      const template =
        fits.find(t => t.channelId === order?.channelId) ??
        fits.find(t => t.channelId === null) ??
        (cause.moment === 'message' ? PLAIN_MESSAGE : undefined);
      if (!order || !template?.inUse) continue;
      const words = { ...(await this.wordsOf(tx, order, way.pages)), ...cause.words };
      await this.write(tx, {
        orderId: order.id,
        moment: cause.moment,
        cause: cause.cause,
        toWhom: order.mail,
        subject: filled(template.subject, words).replace(/\s+/g, ' '),
        text: filled(template.text, words),
      });
    }
  }

  /** Tells those of the house who want to hear of it; for each cause once. */
  async alert(
    tx: Tx,
    kind: Alert,
    order: { id: string; channelId: string },
    cause: string,
    subject: string,
    text: string,
  ): Promise<void> {
    if ((await this.ways.way(tx)).server === '') return;
    for (const { mail } of await alertsFor(tx, kind, order.channelId))
      await this.write(tx, {
        orderId: null,
        moment: `alert ${kind}`,
        cause: `${cause} ${mail}`.slice(0, 80),
        toWhom: mail,
        subject,
        text,
      });
  }

  /** Writes to a supplier, once for a cause; false where mails do not leave the house or nobody told where they read them. */
  async toSupplier(tx: Tx, mail: Pick<Mail, 'cause' | 'toWhom' | 'subject' | 'text'>): Promise<boolean> {
    if (mail.toWhom === '' || (await this.ways.way(tx)).server === '') return false;
    await this.write(tx, { orderId: null, moment: 'purchase', ...mail });
    return true;
  }

  /** Sends a mail that came back once more, to where its order says now. */
  async again(tx: Tx, id: string): Promise<boolean> {
    const mail = await tx
      .of(Mail)
      .findOne({ where: { id, state: 'bounced' }, lock: { mode: 'pessimistic_write' } });
    if (!mail) return false;
    const [order] = mail.orderId ? await ordersToWrite(tx, [mail.orderId]) : [];
    await tx.of(Mail).update(id, { state: 'waiting', why: null, ...(order && { toWhom: order.mail }) });
    await this.sendSoon(tx, id);
    return true;
  }

  private async write(
    tx: Tx,
    mail: Pick<Mail, 'orderId' | 'moment' | 'cause' | 'toWhom' | 'subject' | 'text'>,
  ) {
    if (await tx.of(Mail).existsBy({ moment: mail.moment, cause: mail.cause })) return;
    const id = newId();
    const { subject, text } = mail;
    await tx.insert(Mail, [
      { id, ...mail, subject: subject.slice(0, 200), text: text.slice(0, 6000), at: tx.at },
    ]);
    await this.sendSoon(tx, id);
  }

  private async sendSoon(tx: Tx, mailId: string): Promise<void> {
    await this.jobs.add(tx, [{ kind: KIND, lane: LANE, payload: { mailId }, subjectId: mailId }]);
  }

  private async wordsOf(
    sql: Sql,
    order: WrittenTo,
    pages: string,
  ): Promise<Partial<Record<MailWord, string>>> {
    const labels = await labelsOfOrder(sql, order.id);
    const left = labels.filter(l => l.departed);
    const told = left.length > 0 ? left : labels;
    const arrives =
      told
        .map(l => l.arrives)
        .sort()
        .at(-1) ?? order.promised;
    return {
      shop: order.brand,
      buyer: order.buyer,
      order: order.channelNumber,
      carrier: [...new Set(told.map(l => l.carrierName))].join(', '),
      tracking: told.map(l => l.tracking).join(', '),
      arrives: arrives ?? '',
      link: `${pages}/b/${buyerToken(order.no)}`,
    };
  }

  /** Writes what stages cause. */
  private async ofStages(tx: Tx, rows: readonly StagePassed[]): Promise<void> {
    await this.due(
      tx,
      rows.flatMap(({ orderId, stage }) => {
        const moment = MOMENT_OF[stage];
        return moment ? [{ orderId, moment, cause: orderId }] : [];
      }),
    );
    await this.ofNewOrders(
      tx,
      rows.filter(r => MOMENT_OF[r.stage] === 'entered').map(r => r.orderId),
    );
  }

  /** Tells those of the house who want to hear of new orders; of each once, when it can first be picked or waits for goods. */
  private async ofNewOrders(tx: Tx, orderIds: readonly string[]): Promise<void> {
    if (orderIds.length === 0 || !(await tx.of(AlertWish).existsBy({ kind: 'order' }))) return;
    for (const o of await headsOf(tx, orderIds)) {
      const sum = formatMoney(o.totalMinor, o.currency);
      await this.alert(
        tx,
        'order',
        o,
        o.id,
        `New order ${o.channelNumber}`,
        `${o.buyer}, ${o.channel}, ${sum}.`,
      );
    }
  }

  /** A mail that no server will ever take ends as bounced; what may be taken later is tried again by the job. */
  private async send(id: string): Promise<void> {
    const mail = await mailToSend(this.db, id);
    if (mail?.state !== 'waiting') return;
    try {
      await this.ways.send(mail, await this.house.warehouse(this.db));
      await this.note(id, { state: 'sent', why: null, sentAt: new Date() }, mail.orderId);
    } catch (error) {
      if (!(error instanceof MailRefused)) throw error;
      await this.note(id, { state: 'bounced', why: error.message.slice(0, 300) }, mail.orderId);
    }
  }

  private note(id: string, what: Partial<Pick<Mail, 'state' | 'why' | 'sentAt'>>, orderId: string | null) {
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      await tx.of(Mail).update(id, what);
      await tx.tell('mails', orderId ?? id);
    });
  }
}
