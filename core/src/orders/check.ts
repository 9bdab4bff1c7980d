import { type Address, type AddressTables, checkAddress, isLatinAddress } from './address.js';

/** Why an order is Stopped. Each code has one sentence and one cure. */
export const STOP_CODES = [
  'unlinked-listing',
  'no-code',
  'retired-product',
  'bad-recipe',
  'bad-country',
  'bad-postcode',
  'incomplete-address',
  'long-address',
  'no-phone',
  'not-latin',
  'no-customs',
  'unpaid',
  'duplicate',
  'channel-differs',
  'nothing-ordered',
] as const;
export type StopCode = (typeof STOP_CODES)[number];

/** A stop: its code, what it is about (a listing, a product, a field) and the words for it. */
export interface StopReason {
  code: StopCode;
  subject: string;
  says: string;
  cure: string;
}

/** What the check needs to know of a line's product. `customsLacks` names what a declaration would ask for and it does not have. */
export interface CheckedProduct {
  id: string;
  sku: string;
  name: string;
  stage: 'Unproven' | 'Live' | 'Retired';
  scannable: boolean;
  customsLacks: readonly string[];
}

/** One line as the check sees it. `parts` is null when a recipe could not be broken down. */
export interface CheckedLine {
  channelName: string;
  channelSku: string;
  title: string;
  product: CheckedProduct | null;
  parts: CheckedProduct[] | null;
}

export const PAYMENTS = ['unpaid', 'paid', 'part refunded', 'refunded', 'on delivery'] as const;
export type Payment = (typeof PAYMENTS)[number];

/** Another order that this one may be a repeat of, with the reasons. */
export interface Suspicion {
  number: string;
  why: string[];
}

/** A difference between what the channel tells now and what people made of the order here, which nobody decided yet. */
export interface OpenDifference {
  field: string;
  words: string;
  ours: string;
  theirs: string;
}

/** An order as the check sees it. `home` is the country it ships from. */
export interface CheckedOrder {
  payment: Payment;
  shipTo: Address;
  home: string;
  lines: CheckedLine[];
  suspicions: Suspicion[];
  differences: OpenDifference[];
  /** Lets orders with products that have nothing to scan through, to be mended on the way. */
  letUncodedThrough: boolean;
  /** The carriers that it is planned with take Latin letters only, and nobody has given its address in them. */
  latinWanted: boolean;
}

/** Finds every reason that stops an order, each once. */
export function checkOrder(order: CheckedOrder, tables: AddressTables): StopReason[] {
  const reasons = [
    ...order.lines.flatMap(l => checkLine(l, order)),
    ...checkAddress(order.shipTo, order.home, tables),
    ...order.suspicions.map(suspicionStop),
    ...order.differences.map(differenceStop),
  ];
  if (order.lines.length === 0)
    reasons.push({
      code: 'nothing-ordered',
      subject: '',
      says: 'The order has no lines.',
      cure: 'Add a line, or cancel it.',
    });
  if (order.payment === 'unpaid' || order.payment === 'refunded')
    reasons.push({
      code: 'unpaid',
      subject: order.payment,
      says: `The order is ${order.payment}.`,
      cure:
        order.payment === 'unpaid'
          ? 'Wait for the payment, or cancel it.'
          : 'Cancel it, or say that it was paid again.',
    });
  if (order.latinWanted && !isLatinAddress(order.shipTo))
    reasons.push({
      code: 'not-latin',
      subject: 'address',
      says: 'The carriers that orders are planned with take addresses in Latin letters only.',
      cure: 'Give the address in Latin letters.',
    });
  const seen = new Set<string>();
  return reasons.filter(r => !seen.has(`${r.code}\n${r.subject}`) && seen.add(`${r.code}\n${r.subject}`));
}

function checkLine(line: CheckedLine, order: CheckedOrder): StopReason[] {
  if (!line.product)
    return [
      {
        code: 'unlinked-listing',
        subject: line.channelSku,
        says: `${line.channelName} sells ${line.channelSku} “${line.title}” and no product is linked to it.`,
        cure: 'Link the listing to a product.',
      },
    ];
  if (line.parts === null)
    return [
      {
        code: 'bad-recipe',
        subject: line.product.sku,
        says: `The recipe of ${line.product.name} cannot be broken into parts.`,
        cure: 'Correct the recipe.',
      },
    ];
  return [line.product, ...line.parts].flatMap(p => checkProduct(p, line.parts!, order));
}

function checkProduct(p: CheckedProduct, parts: CheckedProduct[], order: CheckedOrder): StopReason[] {
  if (p.stage === 'Retired')
    return [
      {
        code: 'retired-product',
        subject: p.sku,
        says: `${p.name} is retired.`,
        cure: 'Make it live again, or cancel the line.',
      },
    ];
  const reasons: StopReason[] = [];
  if (!p.scannable && parts.includes(p) && !order.letUncodedThrough)
    reasons.push({
      code: 'no-code',
      subject: p.sku,
      says: `${p.name} has nothing to scan.`,
      cure: 'Give it a code.',
    });
  if (order.shipTo.country !== order.home && p.customsLacks.length > 0 && parts.includes(p)) {
    const lacks = p.customsLacks.join(', ');
    reasons.push({
      code: 'no-customs',
      subject: p.sku,
      says: `${p.name} goes to ${order.shipTo.country}, and for customs it lacks: ${lacks}.`,
      cure: `Add its ${lacks}.`,
    });
  }
  return reasons;
}

const suspicionStop = (s: Suspicion): StopReason => ({
  code: 'duplicate',
  subject: s.number,
  says: `It may be a repeat of ${s.number}: ${s.why.join(', ')}.`,
  cure: 'Accept it as an order of its own, or cancel it.',
});

const differenceStop = (d: OpenDifference): StopReason => ({
  code: 'channel-differs',
  subject: d.field,
  says: `The channel changed ${d.words} to “${d.theirs}”; here it was made “${d.ours}”.`,
  cure: 'Take the channel’s, or keep ours.',
});
