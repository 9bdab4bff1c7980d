import {
  type CenterIn,
  type CenterView,
  type NetworkBookIn,
  NetworkBooking,
  type NetworkBookingIn,
  NetworkCodes,
  NetworkOrder,
  type NetworkOrderIn,
  NetworkPlan,
  type NetworkPlanIn,
  NetworkPrice,
  NetworkRefusal,
  NetworkRules,
  NetworkStock,
} from '@auk/contract';
import { Injectable } from '@nestjs/common';
import type { ZodType } from 'zod';
import { askCarrier, isSilence, jsonOf } from '../carriers/carriers.module.js';
import { Db, type Doer, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { mustLeadOutside } from '../http/outside.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { seal, unseal } from '../reference/sealing.js';

const SETTING = 'centers';
const WAIT_MS = 4_000;

/** A network as it is kept; its key is sealed. */
interface Kept {
  name: string;
  address: string;
  sealed: string;
}

/** What a network told, and when; `silent` is why it could not be asked anew. */
interface Told<T> {
  at: number;
  value: T | null;
  silent: string | null;
}
const RULES_MS = 15 * 60_000;
const STOCK_MS = 60_000;
const SILENT_MS = 20_000;

/** What a network answered; `silent` where nobody knows what became of the question. */
export type CenterAnswer<T> =
  | { kind: 'answered'; value: T }
  | { kind: 'refused'; why: string }
  /** It knows nothing of what was asked about. */
  | { kind: 'unknown'; why: string }
  | { kind: 'silent'; why: string };

/** Networks of fulfillment centers that send orders for the house, and how they are asked. */
@Injectable()
export class Centers {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  async list(sql: Sql = this.db): Promise<CenterView[]> {
    return (await this.kept(sql)).map(({ name, address }) => ({ name, address }));
  }

  /** Connects a network, or changes the one of that name. */
  async connect({ name, address, key }: CenterIn, doer: Doer): Promise<void> {
    await mustLeadOutside(address);
    await this.db.tx(doer, async tx => {
      const all = await this.house.lockedSetting<Kept[]>(tx, SETTING, []);
      const sealed = key === '' ? (all.find(c => c.name === name)?.sealed ?? seal('')) : seal(key);
      await this.house.set(tx, SETTING, [
        ...all.filter(c => c.name !== name),
        { name, address: address.replace(/\/+$/, ''), sealed },
      ]);
      await tx.tell('purchases', '');
    });
  }

  /** What lies there now, as the center tells. */
  async stockNow(name: string): Promise<NetworkStock> {
    const answer = await this.ask(name, 'GET', 'stock', NetworkStock);
    if (answer.kind === 'answered') return answer.value;
    throw new Forbidden(answer.why, 'Try again, or look at its address under Receiving.');
  }

  /** Orders by our key; asked twice it is one order there. */
  order = (name: string, key: string, order: NetworkOrderIn): Promise<CenterAnswer<NetworkOrder>> =>
    this.ask(name, 'PUT', `orders/${key}`, NetworkOrder, order);
  find = (name: string, key: string): Promise<CenterAnswer<NetworkOrder>> =>
    this.ask(name, 'GET', `orders/${key}`, NetworkOrder);
  cancel = (name: string, key: string): Promise<CenterAnswer<NetworkOrder>> =>
    this.ask(name, 'POST', `orders/${key}/cancel`, NetworkOrder);

  /** Inbound shipments: what it wants, what it scans, where it places, what it charges, what it booked and what became of that. */
  rulesNow = (name: string): Promise<CenterAnswer<NetworkRules>> =>
    this.ask(name, 'GET', 'rules', NetworkRules);
  codes = (name: string, codes: readonly string[]): Promise<CenterAnswer<NetworkCodes>> =>
    this.ask(name, 'POST', 'codes', NetworkCodes, { codes });
  plan = (name: string, plan: NetworkPlanIn): Promise<CenterAnswer<NetworkPlan>> =>
    this.ask(name, 'POST', 'plans', NetworkPlan, plan);
  /** A plan as it is now: a network may change it until what goes by it is booked. */
  planNow = (name: string, code: string): Promise<CenterAnswer<NetworkPlan>> =>
    this.ask(name, 'GET', `plans/${encodeURIComponent(code)}`, NetworkPlan);
  price = (name: string, booking: NetworkBookingIn): Promise<CenterAnswer<NetworkPrice>> =>
    this.ask(name, 'POST', 'prices', NetworkPrice, booking);
  /** Books by our key; asked twice it is one booking there. */
  book = (name: string, key: string, booking: NetworkBookIn): Promise<CenterAnswer<NetworkBooking>> =>
    this.ask(name, 'PUT', `bookings/${key}`, NetworkBooking, booking);
  booking = (name: string, key: string): Promise<CenterAnswer<NetworkBooking>> =>
    this.ask(name, 'GET', `bookings/${key}`, NetworkBooking);
  callOffBooking = (name: string, key: string): Promise<CenterAnswer<NetworkBooking>> =>
    this.ask(name, 'POST', `bookings/${key}/cancel`, NetworkBooking, {});
  tellLeft = (name: string, key: string): Promise<CenterAnswer<NetworkBooking>> =>
    this.ask(name, 'POST', `bookings/${key}/left`, NetworkBooking, {});

  /** What a network wants, as it told last; null when it never told. */
  async rules(name: string): Promise<{ rules: NetworkRules | null; silent: string | null }> {
    const { value, silent } = await this.told(`network ${name}`, RULES_MS, () => this.rulesNow(name));
    return { rules: value, silent };
  }

  /** What lies at a network, as it told last. */
  async stockAt(name: string): Promise<NetworkStock['rows']> {
    const ask = () => this.ask(name, 'GET', 'stock', NetworkStock);
    return (await this.told(`stock at ${name}`, STOCK_MS, ask)).value?.rows ?? [];
  }

  /** What was told last; asked anew when that is older than `ms`. While it is silent what was known stays, and it is not asked at each look. */
  private async told<T>(
    key: string,
    ms: number,
    ask: () => Promise<CenterAnswer<T>>,
  ): Promise<Omit<Told<T>, 'at'>> {
    const known = await this.house.setting<Told<T> | null>(this.db, key, null);
    if (known && Date.now() - known.at < (known.silent ? SILENT_MS : ms)) return known;
    const answer = await ask();
    const now: Told<T> =
      answer.kind === 'answered'
        ? { at: Date.now(), value: answer.value, silent: null }
        : { at: Date.now(), value: known?.value ?? null, silent: answer.why };
    await this.db.tx({ personId: null, at: new Date() }, tx => this.house.set(tx, key, now));
    return now;
  }

  private async ask<T>(
    name: string,
    method: string,
    path: string,
    schema: ZodType<T>,
    said?: unknown,
  ): Promise<CenterAnswer<T>> {
    const center = (await this.kept(this.db)).find(c => c.name === name);
    if (!center) throw new NotHere(`The fulfillment center ${name}`, 'Connect it again under Receiving.');
    const { address, sealed } = center;
    const at = { code: name, name, address, key: unseal(sealed) };
    const body = said === undefined ? undefined : JSON.stringify(said);
    const raw = await askCarrier(at, { method, path, ms: WAIT_MS, ...(body !== undefined && { body }) });
    if (isSilence(raw)) return { kind: 'silent', why: raw.why };
    const json = jsonOf(raw);
    const refusal = NetworkRefusal.safeParse(json);
    if (raw.status >= 400 && raw.status < 500 && refusal.success)
      return { kind: raw.status === 404 ? 'unknown' : 'refused', why: `${name} says: ${refusal.data.why}` };
    const read = schema.safeParse(json);
    return raw.status === 200 && read.success
      ? { kind: 'answered', value: read.data }
      : { kind: 'silent', why: `${name} answered something that makes no sense (${raw.status}).` };
  }

  private kept(sql: Sql): Promise<Kept[]> {
    return this.house.setting<Kept[]>(sql, SETTING, []);
  }
}
