import {
  type CenterIn,
  type CenterView,
  NetworkOrder,
  type NetworkOrderIn,
  NetworkRefusal,
  NetworkStock,
} from '@auk/contract';
import { Injectable } from '@nestjs/common';
import type { ZodType } from 'zod';
import { askCarrier, isSilence, jsonOf } from '../carriers/carriers.module.js';
import { Db, type Doer, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
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
  connect({ name, address, key }: CenterIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
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
