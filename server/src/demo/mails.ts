import type { MailMoment } from '@auk/contract';
import { CHANNELS } from '@auk/demo';
import { newId, type Tx } from '../database/db.js';
import { channelCodes, hasTemplates } from './standins.queries.js';

/** Where the mail stand-in listens, and where buyers reach their pages. */
export interface MailAt {
  server: string;
  pages: string;
}

/** Mails leave by the stand-in, which listens on another port at every start. */
export async function connectMail(tx: Tx, { server, pages }: MailAt): Promise<void> {
  const way = { server, pages, from: 'bees@skepside.example', user: '', sealed: null };
  await tx.upsert('setting', [{ name: 'mails.way', value: JSON.stringify(way) }], ['value']);
  if (!(await hasTemplates(tx))) await loadMails(tx);
}

const TEMPLATES: [moment: MailMoment, inUse: boolean, subject: string, text: string][] = [
  [
    'departed',
    true,
    'Your order {order} is on its way',
    'Hello {buyer},\n\nyour order {order} has left our house with {carrier}, number {tracking}. We expect it at your door on {arrives}.\n\nFollow it, or write to us, here:\n{link}\n\n{shop}',
  ],
  [
    'delivered',
    true,
    'Your order {order} has arrived',
    'Hello {buyer},\n\n{carrier} says that your order {order} was delivered. Is anything missing or broken? Tell us here:\n{link}\n\n{shop}',
  ],
  [
    'exception',
    true,
    'Your order {order} is held up',
    'Hello {buyer},\n\nthe carrier tells us about your order {order}: {says}. We keep an eye on it; here is all we know:\n{link}\n\n{shop}',
  ],
  [
    'back',
    true,
    'Your order {order} came back to us',
    'Hello {buyer},\n\nyour order {order} is on its way back to us, or came back. {says} Tell us what you would like:\n{link}\n\n{shop}',
  ],
  [
    'message',
    true,
    'About your order {order}',
    'Hello {buyer},\n\n{message}\n\nAnswer on the page of your order:\n{link}\n\n{shop}',
  ],
  [
    'entered',
    false,
    'We have your order {order}',
    'Hello {buyer},\n\nwe have your order {order}.\n\n{link}\n\n{shop}',
  ],
];
const COLOURS = ['#2f5d50', '#7a4b12', '#36486b', '#6b3a52'];

/** The demo's mails: what is told, in each brand's colour. */
async function loadMails(tx: Tx): Promise<void> {
  await tx.insert(
    'mailTemplate',
    TEMPLATES.map(([moment, inUse, subject, text]) => ({
      id: newId(),
      moment,
      channelId: null,
      inUse,
      subject,
      text,
    })),
  );
  const channels = await channelCodes(tx);
  const looks = channels.flatMap(({ id, code }) => {
    const at = CHANNELS.findIndex(c => c.code === code);
    return at === -1 ? [] : [{ channelId: id, colour: COLOURS[at % COLOURS.length]! }];
  });
  await tx.insert('brandLook', looks);
}
