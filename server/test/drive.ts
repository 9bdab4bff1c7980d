import { type OfferView, wishOf as purchaseOf } from '@auk/contract';
import { v7 } from 'uuid';
import type { Caller } from './house.js';

let count = 0;

/** A scan as a device makes it. */
export const scanOf = (text: string, id = v7()) => ({
  id,
  text,
  at: new Date().toISOString(),
  device: 'test-device',
  count: ++count,
});

/** Ids of some orders in a stage, newest first. */
export async function ordersIn(caller: Caller, stage: string, most: number): Promise<string[]> {
  const { body } = await caller.get(`orders?stage=${stage}&size=${most}`);
  return body.rows.map((r: { id: string }) => r.id);
}

/** Makes a list of the orders and picks all of it by scans; returns its number. */
export async function listAndPick(caller: Caller, orderIds: string[]): Promise<string> {
  const made = await caller.post('picking/lists', { orderIds });
  if (made.status !== 200) throw new Error(JSON.stringify(made.body));
  await pickAll(caller, made.body.no);
  return made.body.no;
}

/** Picks all of a list by scans. */
export async function pickAll(caller: Caller, no: string): Promise<void> {
  const { sessionId, state } = (await caller.post('picking/open', { code: no, device: 'test-device' })).body;
  for (const stop of state.stops) {
    await caller.post(`picking/sessions/${sessionId}/scans`, scanOf(stop.placeCode));
    await caller.post(`picking/sessions/${sessionId}/scans`, scanOf(stop.product.codes[0].code));
    if (stop.wanted > 1) await caller.post(`picking/sessions/${sessionId}/scans`, scanOf('AUK-ALL'));
  }
}

/** Packs an order by scans and closes its parcel; returns the bench's view. */
// biome-ignore lint/suspicious/noExplicitAny: a view of the API
export async function packAndClose(caller: Caller, code: string): Promise<any> {
  const opened = await caller.post('packing/open', { code, device: 'test-device' });
  if (opened.status !== 200) throw new Error(JSON.stringify(opened.body));
  const { sessionId, state } = opened.body;
  const path = `packing/sessions/${sessionId}/scans`;
  const scan = async (text: string) => (await caller.post(path, scanOf(text))).body.state;
  const pieces = state.lines.flatMap((l: { wanted: number; product: { codes: { code: string }[] } }) =>
    Array.from({ length: l.wanted }, () => l.product.codes[0]!.code),
  );
  for (const text of [...pieces, 'BX-3', '3 lb']) {
    const after = await scan(text);
    // What is said of the weight, and what is asked of units, is answered as it comes.
    for (let now = after; now.asking; ) now = await scan(answerTo(now));
  }
  await scan('AUK-CLOSE');
  const { body } = await caller.get(`packing/sessions/${sessionId}`);
  return { ...body, parcelNo: body.parcels.at(-1).no };
}

let serials = 0;
/** An answer to what the bench asks: yes, or a text that is no other's. */
// biome-ignore lint/suspicious/noExplicitAny: a view of the API
function answerTo({ asking, lines }: any): string {
  if (asking.about === 'weight') return 'AUK-YES';
  const { wants } = lines[asking.moves[0].line];
  if (wants.warning && !asking.told.warning) return 'AUK-YES';
  if (wants.serial !== undefined && !asking.told.serial) return `HS-${String(++serials).padStart(6, '0')}`;
  if (wants.lot && !asking.told.lot) return wants.lot[0] ?? 'L-1';
  return wants.expiry && !asking.told.expiry ? '2031-01-31' : 'an answer';
}

/** The wish to buy an offer. */
export const wishOf = (offer: OfferView, key = v7()) => ({ ...purchaseOf(offer), key });

/** A CSV of orders in the web store's headings. */
export const orderCsv = (rows: string[]): string =>
  `Order number,Buyer name,Address 1,City,State,Zip,SKU,Item title,Qty,Unit price\n${rows.join('\n')}\n`;

/** A product as the API tells it. */
// biome-ignore lint/suspicious/noExplicitAny: a view of the API
export const productOf = async (caller: Caller, sku: string): Promise<any> =>
  (await caller.get(`products/${sku}`)).body;

/** The newest move of a place, which a count begun now has seen. */
export const seenIn = async (caller: Caller, place: string): Promise<number> =>
  (await caller.get(`places/${place}`)).body.seen;

/** The id of the order with a channel's number. */
export const idOfOrder = async (caller: Caller, number: string): Promise<string> =>
  (await caller.get(`orders?stage=all&words=${encodeURIComponent(number)}`)).body.rows.find(
    (r: { channelNumber: string }) => r.channelNumber === number,
  ).id;

/** Brings in orders of the web store, each row `number,sku,quantity,price` to a buyer of its own unless a name is given. */
export async function bringIn(
  caller: Caller,
  rows: [number: string, sku: string, quantity: number, price: string, buyer?: string][],
): Promise<void> {
  const csv = orderCsv(
    rows.map(
      ([number, sku, quantity, price, buyer]) =>
        `${number},${buyer ?? `Buyer ${number}`},1 Road,Boise,ID,83702,${sku},Thing ${sku},${quantity},${price}`,
    ),
  );
  const taken = await caller.takeIn('orders', 'channel=web&name=t.csv', csv);
  if (taken.status !== 200) throw new Error(JSON.stringify(taken.body));
}

/** A parcel that was packed and has a label. */
export interface LabelledParcel {
  orderId: string;
  number: string;
  parcelNo: string;
  tracking: string;
  departure: string;
}

/** Packs a picked order (or the one given) and buys the first label offered, or the one that is chosen among the offers. */
export async function packAndLabel(
  caller: Caller,
  orderId?: string,
  choose: (offers: OfferView[]) => OfferView = offers => offers[0]!,
): Promise<LabelledParcel> {
  const id = orderId ?? (await ordersIn(caller, 'Picked', 1))[0]!;
  const { row } = (await caller.get(`orders/${id}`)).body;
  const { parcelNo } = await packAndClose(caller, row.no);
  const offer = choose((await caller.get(`parcels/${parcelNo}/offers`)).body.offers);
  const { body } = await caller.post(`parcels/${parcelNo}/label`, wishOf(offer));
  const order = (await caller.get(`orders/${id}`)).body;
  const departure = order.parcels.find((p: { no: string }) => p.no === parcelNo).departureNo;
  return { orderId: id, number: row.channelNumber, parcelNo, tracking: body.tracking, departure };
}

/** Scans parcels onto their departure and closes it; what was not scanned waits for the next. */
export async function letLeave(caller: Caller, parcels: readonly LabelledParcel[]): Promise<void> {
  for (const p of parcels) await caller.post(`departures/${p.departure}/scans`, scanOf(p.parcelNo));
  for (const no of new Set(parcels.map(p => p.departure))) {
    const closed = await caller.post(`departures/${no}/close`, { leaveBehind: true });
    if (closed.status !== 200) throw new Error(JSON.stringify(closed.body));
  }
}
