/** Why an order is Stopped. Each code has one sentence and one cure. */
export const STOP_CODES = [
  'unlinked-listing',
  'no-code',
  'retired-product',
  'bad-recipe',
  'bad-country',
  'bad-postcode',
  'long-address',
  'unpaid',
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

/** What the check needs to know of a line's product. */
export interface CheckedProduct {
  id: string;
  sku: string;
  name: string;
  stage: 'Unproven' | 'Live' | 'Retired';
  scannable: boolean;
}

/** One line as the check sees it. `parts` is null when a recipe could not be broken down. */
export interface CheckedLine {
  channelName: string;
  channelSku: string;
  title: string;
  product: CheckedProduct | null;
  parts: CheckedProduct[] | null;
}

/** An order as the check sees it. */
export interface CheckedOrder {
  payment: 'unpaid' | 'paid' | 'part refunded' | 'refunded' | 'on delivery';
  shipTo: Address;
  lines: CheckedLine[];
}

/** A postal address. Country is ISO 3166-1 alpha-2. */
export interface Address {
  name: string;
  company: string;
  line1: string;
  line2: string;
  city: string;
  region: string;
  postcode: string;
  country: string;
  phone: string;
}

/** Longest address line that a 4x6 in label prints whole. */
export const LABEL_LINE = 40;

/** Finds every reason that stops an order, each once. Postcode form and country are asked of `isPostcode` and `isCountry`, so that tables stay outside the core. */
export function checkOrder(
  order: CheckedOrder,
  tables: { isCountry(c: string): boolean; isPostcode(p: string, country: string): boolean },
): StopReason[] {
  const reasons = [...order.lines.flatMap(checkLine), ...checkAddress(order.shipTo, tables)];
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
      subject: 'payment',
      says: `The order is ${order.payment}.`,
      cure: 'Wait for the payment, or cancel it.',
    });
  const seen = new Set<string>();
  return reasons.filter(r => !seen.has(`${r.code}\n${r.subject}`) && seen.add(`${r.code}\n${r.subject}`));
}

function checkLine(line: CheckedLine): StopReason[] {
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
  return [line.product, ...line.parts].flatMap(p => checkProduct(p, line.parts!));
}

function checkProduct(p: CheckedProduct, parts: CheckedProduct[]): StopReason[] {
  if (p.stage === 'Retired')
    return [
      {
        code: 'retired-product',
        subject: p.sku,
        says: `${p.name} is retired.`,
        cure: 'Make it live again, or cancel the line.',
      },
    ];
  if (!p.scannable && parts.includes(p))
    return [
      { code: 'no-code', subject: p.sku, says: `${p.name} has nothing to scan.`, cure: 'Give it a code.' },
    ];
  return [];
}

function checkAddress(
  a: Address,
  tables: { isCountry(c: string): boolean; isPostcode(p: string, country: string): boolean },
): StopReason[] {
  if (!tables.isCountry(a.country))
    return [
      {
        code: 'bad-country',
        subject: 'country',
        says: `“${a.country}” is not a country code.`,
        cure: 'Correct the country of the address.',
      },
    ];
  const reasons: StopReason[] = [];
  if (!tables.isPostcode(a.postcode, a.country))
    reasons.push({
      code: 'bad-postcode',
      subject: 'postcode',
      says: `${a.postcode || 'Nothing'} is not a postcode of ${a.country}.`,
      cure: 'Correct the postcode.',
    });
  const long = [a.name, a.company, a.line1, a.line2, a.city].find(l => l.length > LABEL_LINE);
  if (long)
    reasons.push({
      code: 'long-address',
      subject: 'address',
      says: `“${long.slice(0, 20)}…” has ${long.length} characters; a label line holds ${LABEL_LINE}.`,
      cure: 'Shorten the line.',
    });
  return reasons;
}
