import { NetworkOrderIn } from '@auk/contract';
import type { Books } from './books.js';

/** An order in the network's books, by the key of whoever ordered. */
export interface NetworkEntry extends NetworkOrderIn {
  key: string;
}

/** What became of an order: an entry a step, so that the books only grow. */
export interface NetworkStep {
  key: string;
  order: string;
  state: 'left' | 'cancelled';
  tracking: string | null;
}

export interface NetworkAnswer {
  status: number;
  body: unknown;
}

const CARRIER = 'Network Post';

/** A simulated network of fulfillment centers: it has stock, takes orders by key, and sends them when it is told to. */
export class NetworkDesk {
  constructor(
    private readonly had: Readonly<Record<string, number>>,
    /** Units by code that came in since. */
    private readonly came: () => ReadonlyMap<string, number>,
    readonly orders: Books<NetworkEntry>,
    readonly steps: Books<NetworkStep>,
  ) {}

  /** Units of a code that no order has taken. */
  free(code: string): number {
    const taken = this.orders
      .all()
      .filter(o => this.stateOf(o.key) !== 'cancelled')
      .flatMap(o => o.lines.filter(l => l.code === code))
      .reduce((n, l) => n + l.quantity, 0);
    return (this.had[code] ?? 0) + (this.came().get(code) ?? 0) - taken;
  }

  answer(method: string, what: string, key: string, act: string, said: string): NetworkAnswer {
    if (what === 'stock') {
      const codes = new Set([...Object.keys(this.had), ...this.came().keys()]);
      return ok({ rows: [...codes].map(code => ({ code, units: this.free(code) })) });
    }
    if (what !== 'orders' || key === '') return { status: 404, body: { why: 'There is nothing here.' } };
    if (method === 'PUT') return this.take(key, NetworkOrderIn.parse(JSON.parse(said)));
    if (!this.orders.find(key)) return { status: 404, body: { why: 'That order is not here.' } };
    if (act === 'cancel') return this.step(key, 'cancelled');
    if (act === 'send') return this.step(key, 'left');
    return ok(this.view(key));
  }

  private take(key: string, order: NetworkOrderIn): NetworkAnswer {
    if (this.orders.find(key)) return ok(this.view(key));
    const short = order.lines.find(l => this.free(l.code) < l.quantity);
    if (short)
      return {
        status: 422,
        body: { why: `${Math.max(0, this.free(short.code))} of ${short.quantity} ${short.code} are there.` },
      };
    this.orders.write({ key, ...order });
    return ok(this.view(key));
  }

  private step(order: string, state: NetworkStep['state']): NetworkAnswer {
    const now = this.stateOf(order);
    if (now !== 'taken' && now !== state)
      return { status: 409, body: { why: now === 'left' ? 'It has left already.' : 'It is cancelled.' } };
    const tracking = state === 'left' ? `NP${String(this.steps.all().length + 1).padStart(8, '0')}` : null;
    this.steps.write({ key: order, order, state, tracking });
    return ok(this.view(order));
  }

  private stateOf(key: string): 'taken' | NetworkStep['state'] {
    return this.steps.find(key)?.state ?? 'taken';
  }

  private view(key: string) {
    const step = this.steps.find(key);
    return {
      state: step?.state ?? 'taken',
      carrier: step?.state === 'left' ? CARRIER : null,
      tracking: step?.tracking ?? null,
    };
  }
}

const ok = (body: unknown): NetworkAnswer => ({ status: 200, body });
