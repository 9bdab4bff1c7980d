import { z } from 'zod';

/** What may send a buyer a mail: stages of the order, what becomes of its parcels, a message from the house, and rules, which name theirs. */
export const MAIL_MOMENTS = [
  'entered',
  'packed',
  'labelled',
  'departed',
  'cancelled',
  'on the way',
  'delivered',
  'exception',
  'back',
  'message',
  'rule',
] as const;
export type MailMoment = (typeof MAIL_MOMENTS)[number];

/** What staff may be told of by mail. */
export const ALERTS = ['order', 'trouble', 'message'] as const;
export type Alert = (typeof ALERTS)[number];

/** Words in braces that a mail fills in, with what they become. */
export const MAIL_WORDS = {
  shop: 'the brand of the channel',
  buyer: 'the buyer’s name',
  order: 'the number that the buyer knows',
  carrier: 'who carries the parcel',
  tracking: 'its tracking number',
  arrives: 'the day on which it arrives',
  says: 'what the carrier told last',
  message: 'what was written to the buyer',
  link: 'the address of the buyer’s page',
} as const;
export type MailWord = keyof typeof MAIL_WORDS;

const text = (most: number) => z.string().trim().min(1, 'is wanted').max(most);
const knownWords = (t: string) => [...t.matchAll(/\{([^{}]*)\}/g)].every(m => m[1]! in MAIL_WORDS);
const filled = (most: number) =>
  text(most).refine(
    knownWords,
    `has only these words in braces: ${Object.keys(MAIL_WORDS)
      .map(w => `{${w}}`)
      .join(' ')}`,
  );

const MailTemplateFields = z.object({
  id: z.uuid().optional(),
  /** By which rules name it; empty where its moment sends it. */
  name: z.string().trim().max(60).default(''),
  moment: z.enum(MAIL_MOMENTS),
  channel: z.string().max(20),
  inUse: z.boolean(),
  subject: filled(150),
  text: filled(3000),
});
export const MailTemplateIn = MailTemplateFields.refine(t => (t.moment === 'rule') === (t.name !== ''), {
  path: ['name'],
  message: 'is wanted where a rule sends it, and only there',
});
export type MailTemplateIn = z.infer<typeof MailTemplateIn>;
export const MailTemplateView = MailTemplateFields.required();
export type MailTemplateView = z.infer<typeof MailTemplateView>;

const Mail = z.email('is no mail address').max(254);

/** How mails leave the house: the server that takes them, and who they are from. */
export const MailWayIn = z.object({
  server: z.union([z.literal(''), z.url({ protocol: /^smtps?$/ }).max(200)]),
  from: z.union([z.literal(''), Mail]),
  user: z.string().trim().max(200).default(''),
  /** Empty keeps the one that is there. */
  password: z.string().max(200).default(''),
  /** Where buyers reach their pages, without a slash at the end. */
  pages: z.union([z.literal(''), z.url({ protocol: /^https?$/ }).max(200)]),
});
export type MailWayIn = z.infer<typeof MailWayIn>;
export const MailWay = MailWayIn.omit({ password: true }).extend({ hasPassword: z.boolean() });
export type MailWay = z.infer<typeof MailWay>;

/** How a channel's mails and pages look. */
export const BrandView = z.object({
  channel: z.string(),
  brand: z.string(),
  colour: z.string(),
  sentFrom: z.string(),
  hasLogo: z.boolean(),
});
export type BrandView = z.infer<typeof BrandView>;
export const BrandIn = z.object({
  colour: z.string().regex(/^#[0-9a-f]{6}$/i, 'is a colour such as #2f5d50'),
  sentFrom: z.union([z.literal(''), Mail]),
});
export type BrandIn = z.infer<typeof BrandIn>;

export const AlertIn = z.object({ kind: z.enum(ALERTS), channel: z.string().max(20), mail: Mail });
export type AlertIn = z.infer<typeof AlertIn>;
export const AlertView = AlertIn.extend({ id: z.string() });
export type AlertView = z.infer<typeof AlertView>;

export const MailSetup = z.object({
  way: MailWay,
  templates: z.array(MailTemplateView),
  brands: z.array(BrandView),
  alerts: z.array(AlertView),
  /** How many mails wait, and those that came back. */
  waiting: z.number(),
  bounced: z.array(
    z.object({
      id: z.string(),
      to: z.string(),
      subject: z.string(),
      why: z.string(),
      order: z.string().nullable(),
    }),
  ),
});
export type MailSetup = z.infer<typeof MailSetup>;
