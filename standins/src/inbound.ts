import {
  NetworkBookIn,
  type NetworkBooking,
  NetworkBookingIn,
  NetworkCodesIn,
  type NetworkPlan,
  NetworkPlanIn,
  type NetworkPrice,
  NetworkRules,
} from '@auk/contract';
import { handingMinor, spreadLines } from '@auk/core';
import { CATALOGUE, type DemoNetwork } from '@auk/demo';
import { z } from 'zod';
import type { Books } from './books.js';
import type { NetworkAnswer } from './network.js';

/** A plan in the network's books: an entry a change, so that the books only grow. */
export interface PlanEntry {
  key: string;
  plan: NetworkPlan;
}

/** A booking in the network's books. */
export interface BookingEntry extends NetworkBookIn {
  key: string;
  at: string;
  priced: NetworkPrice;
}

/** What became of a booking: an entry a step, so that the books only grow. */
export interface BookingStep {
  key: string;
  booking: string;
  at: string;
  state: NetworkBooking['state'] | null;
  sscc: string | null;
  says: string;
  late: string | null;
  counted: NetworkBooking['counted'];
}

/** What a test or the demo lets happen to a booking. `off`: units by code that are counted more or fewer than were told, in its first box. */
export const HappensAtCenter = z.object({
  what: z.enum(['travelling', 'at dock', 'counting', 'counted', 'late']),
  off: z.record(z.string(), z.number().int()).default({}),
  /** ISO day. */
  late: z.iso.date().nullable().default(null),
});

/** What a test or the demo lets happen to a plan: a center's goods are to go to another. */
export const HappensToPlan = z.object({ from: z.string(), to: z.string() });

/** A center that gets a smaller part of all units than this gets none; they go to the first. */
const LEAST_SHARE = 0.08;
const ok = (body: unknown): NetworkAnswer => ({ status: 200, body });
const no = (status: number, why: string): NetworkAnswer => ({ status, body: { why } });

/** Inbound shipments at a simulated network: it places, prices, books, and counts what comes. */
export class InboundDesk {
  private readonly rules: NetworkRules;

  constructor(
    private readonly network: DemoNetwork,
    readonly bookings: Books<BookingEntry>,
    readonly steps: Books<BookingStep>,
    private readonly plans: Books<PlanEntry>,
    private readonly now: () => Date,
  ) {
    this.rules = NetworkRules.parse(network.rules);
  }

  /** Null where it is asked about something else. */
  answer(method: string, what: string, key: string, act: string, said: string): NetworkAnswer | null {
    if (what === 'rules') return ok(this.rules);
    if (what === 'codes')
      return ok({ rows: NetworkCodesIn.parse(JSON.parse(said)).codes.map(c => this.code(c)) });
    if (what === 'plans' && key === '') return this.plan(NetworkPlanIn.parse(JSON.parse(said)));
    if (what === 'plans') {
      const kept = this.planNow(key);
      if (!kept) return no(404, 'That plan is not here.');
      return act === 'happens' ? this.moved(kept, HappensToPlan.parse(JSON.parse(said))) : ok(kept);
    }
    if (what === 'prices') return this.priced(NetworkBookingIn.parse(JSON.parse(said)));
    if (what !== 'bookings') return null;
    if (key === '') return ok(this.bookings.all());
    if (method === 'PUT') return this.book(key, NetworkBookIn.parse(JSON.parse(said)));
    const entry = this.bookings.find(key);
    if (!entry) return no(404, 'That booking is not here.');
    if (act === 'cancel') return this.cancel(entry);
    if (act === 'left') return this.left(entry);
    if (act === 'happens') return this.happens(entry, HappensAtCenter.parse(JSON.parse(said)));
    return ok(this.view(entry));
  }

  /** Units by code that were counted in. */
  counted(): Map<string, number> {
    const units = new Map<string, number>();
    for (const c of this.steps.all().flatMap(s => s.counted))
      units.set(c.code, (units.get(c.code) ?? 0) + c.units);
    return units;
  }

  private code(code: string) {
    const product = CATALOGUE.find(p => p.sku === code);
    const other = this.network.scans[code];
    return {
      code,
      scans: other === undefined ? (product?.gtin ?? null) : other,
      category: product ? `Garden & Farm / ${product.picture}` : null,
    };
  }

  private refusal(code: string): string | null {
    const facts: Record<string, unknown> = CATALOGUE.find(p => p.sku === code)?.facts ?? {};
    return this.rules.refuses.find(r => facts[r.fact] === true)?.why ?? null;
  }

  private plan({ placement, lines }: NetworkPlanIn): NetworkAnswer {
    if (this.rules.feeMinor[placement] === null) return no(422, `Nothing is taken so: ${placement}.`);
    const refused = lines.flatMap(l => {
      const why = this.refusal(l.code);
      return why ? [{ code: l.code, why }] : [];
    });
    const taken = lines.filter(l => !refused.some(r => r.code === l.code));
    if (taken.length === 0) return no(422, 'None of it is taken.');
    const { dock, centers } = this.rules;
    const whole = centers.reduce((n, c) => n + c.share, 0);
    const served = centers.filter(c => c.share / whole >= LEAST_SHARE || centers.length === 1);
    const placed =
      placement === 'one dock'
        ? [{ center: dock.center, units: taken.map(l => l.units) }]
        : spreadLines(taken, served);
    const parts = placed.map(p => ({
      site: [dock, ...centers]
        .map(({ center, address }) => ({ center, address }))
        .find(s => s.center === p.center)!,
      lines: taken.flatMap((l, i) => (p.units[i]! > 0 ? [{ code: l.code, units: p.units[i]! }] : [])),
    }));
    const code = `PN-${this.plans.all().length + 1}`;
    const plan: NetworkPlan = { plan: code, placement, parts, refused };
    this.plans.write({ key: `${code} 1`, plan });
    return ok(plan);
  }

  private planNow(code: string): NetworkPlan | null {
    return this.plans.all().findLast(e => e.plan.plan === code)?.plan ?? null;
  }

  /** All that was to go to one center goes to another. */
  private moved(plan: NetworkPlan, { from, to }: z.infer<typeof HappensToPlan>): NetworkAnswer {
    const goes = plan.parts.find(p => p.site.center === from);
    const site = [this.rules.dock, ...this.rules.centers].find(s => s.center === to);
    if (!goes || !site) return no(422, 'That is no part of the plan.');
    const units = new Map<string, number>();
    const there = plan.parts.find(p => p.site.center === to);
    for (const l of [...(there?.lines ?? []), ...goes.lines])
      units.set(l.code, (units.get(l.code) ?? 0) + l.units);
    const { center, address } = site;
    const now: NetworkPlan = {
      ...plan,
      parts: [
        ...plan.parts.filter(p => p !== goes && p !== there),
        { site: { center, address }, lines: [...units].map(([code, n]) => ({ code, units: n })) },
      ],
    };
    const changes = this.plans.all().filter(e => e.plan.plan === plan.plan).length;
    this.plans.write({ key: `${plan.plan} ${changes + 1}`, plan: now });
    return ok(now);
  }

  /** Why boxes are not what the plan expects at their center. */
  private otherThanPlanned(b: NetworkBookingIn): string | null {
    const plan = b.plan === null ? null : this.planNow(b.plan);
    if (!plan) return null;
    const expected = plan.parts.find(p => p.site.center === b.center)?.lines ?? [];
    const come = new Map<string, number>();
    for (const l of b.boxes.flatMap(x => x.lines)) come.set(l.code, (come.get(l.code) ?? 0) + l.units);
    const other = [...come].find(([code, n]) => n > (expected.find(e => e.code === code)?.units ?? 0));
    if (!other) return null;
    const [code, n] = other;
    return `${expected.find(e => e.code === code)?.units ?? 0} of ${code} are expected at ${b.center} by now, not ${n}.`;
  }

  private price(b: NetworkBookingIn): NetworkPrice {
    const units = b.boxes.flatMap(x => x.lines).reduce((n, l) => n + l.units, 0);
    const carrier = this.rules.freight.find(f => f.name === b.freight);
    const pieces = b.form === 'pallets' ? b.pallets.length : b.boxes.length;
    const kilograms = b.boxes.reduce((n, x) => n + x.weightMg, 0) / 1_000_000;
    return {
      feeMinor: (this.rules.feeMinor[b.placement] ?? 0) * units,
      freightMinor: carrier
        ? carrier.pieceMinor * pieces +
          Math.ceil(carrier.kilogramMinor * kilograms) +
          (handingMinor(carrier, b.handing, b.door) ?? 0)
        : 0,
      currency: this.rules.currency,
    };
  }

  private whyNot(b: NetworkBookingIn, key: string): string | null {
    const full = this.network.full[b.center];
    if (full) return full;
    const other = this.otherThanPlanned(b);
    if (other) return other;
    const carrier = this.rules.freight.find(c => c.name === b.freight);
    if (carrier && handingMinor(carrier, b.handing, b.door) === null)
      return `${carrier.name} fetches; nothing can be brought to it.`;
    const heavy = b.boxes.find(x => x.weightMg > this.rules.limits.mostMg);
    if (heavy) return `The box ${heavy.sscc} is heavier than is taken.`;
    const { mostHeight, mostWeightMg } = this.rules.pallet;
    const high = b.pallets.find(p => p.height > mostHeight || p.weightMg > mostWeightMg);
    if (high) return `The pallet ${high.sscc} is higher or heavier than is taken.`;
    const loose = b.form === 'pallets' && b.boxes.find(x => !b.pallets.some(p => p.boxes.includes(x.sscc)));
    if (loose) return `The box ${loose.sscc} stands on no pallet.`;
    const live = this.bookings.all().filter(o => o.key !== key && this.stateOf(o.key) !== 'cancelled');
    const unitsOf = (o: NetworkBookingIn) => [...o.pallets, ...o.boxes].map(u => u.sscc);
    const units = unitsOf(b);
    const twice = units.find((u, i) => units.indexOf(u) !== i || live.some(o => unitsOf(o).includes(u)));
    return twice ? `The number ${twice} is at another box.` : null;
  }

  private priced(b: NetworkBookingIn): NetworkAnswer {
    const why = this.whyNot(b, '');
    return why ? no(422, why) : ok(this.price(b));
  }

  private book(key: string, b: NetworkBookIn): NetworkAnswer {
    const known = this.bookings.find(key);
    if (known) return ok(this.view(known));
    const why = this.whyNot(b, key);
    if (why) return no(422, why);
    const priced = this.price(b);
    if (priced.feeMinor + priced.freightMinor > b.priceMinor) return no(422, 'Its price is another by now.');
    const entry: BookingEntry = { ...b, key, at: this.now().toISOString(), priced };
    this.bookings.write(entry);
    return ok(this.view(entry));
  }

  private cancel(entry: BookingEntry): NetworkAnswer {
    const state = this.stateOf(entry.key);
    if (state === 'cancelled') return ok(this.view(entry));
    if (state !== 'booked') return no(409, 'It is on its way already.');
    if (this.now().toISOString() > this.freeUntil(entry))
      return no(409, 'It could be cancelled for nothing until then only.');
    this.step(entry, { state: 'cancelled', says: 'Cancelled.' });
    return ok(this.view(entry));
  }

  private left(entry: BookingEntry): NetworkAnswer {
    const state = this.stateOf(entry.key);
    if (state === 'cancelled') return no(409, 'It is cancelled.');
    if (state === 'booked') this.step(entry, { state: 'travelling', says: 'Left the sender.' });
    return ok(this.view(entry));
  }

  private happens(entry: BookingEntry, { what, off, late }: z.infer<typeof HappensAtCenter>): NetworkAnswer {
    if (what === 'late') {
      this.step(entry, {
        state: null,
        says: `Held on the way; expected ${late}.`,
        late,
        sscc: entry.boxes[0]!.sscc,
      });
      return ok(this.view(entry));
    }
    const counted = what === 'counted' ? this.countOf(entry, off) : [];
    this.step(entry, { state: what, says: SAYS[what], counted });
    return ok(this.view(entry));
  }

  /** All boxes as they were told, less or more what is off in the first box that has it, or in the first box at all. */
  private countOf(entry: BookingEntry, off: Readonly<Record<string, number>>): NetworkBooking['counted'] {
    const rows = entry.boxes.flatMap(b => b.lines.map(l => ({ sscc: b.sscc, code: l.code, units: l.units })));
    for (const [code, n] of Object.entries(off)) {
      const row = rows.find(r => r.code === code);
      if (row) row.units = Math.max(0, row.units + n);
      else rows.push({ sscc: entry.boxes[0]!.sscc, code, units: n });
    }
    return rows;
  }

  private step(entry: BookingEntry, step: Partial<BookingStep> & Pick<BookingStep, 'state' | 'says'>): void {
    const n = this.steps.all().filter(s => s.booking === entry.key).length + 1;
    this.steps.write({
      key: `${entry.key} ${n}`,
      booking: entry.key,
      at: this.now().toISOString(),
      sscc: null,
      late: null,
      counted: [],
      ...step,
    });
  }

  /** How a booking stands. */
  stateOf(booking: string): NetworkBooking['state'] {
    return this.steps.all().findLast(s => s.booking === booking && s.state !== null)?.state ?? 'booked';
  }

  private freeUntil(entry: BookingEntry): string {
    return new Date(Date.parse(entry.at) + this.rules.freeHours * 3_600_000).toISOString();
  }

  private view(entry: BookingEntry): NetworkBooking {
    const steps = this.steps.all().filter(s => s.booking === entry.key);
    const no = this.bookings.all().findIndex(b => b.key === entry.key) + 1;
    const pieces = entry.form === 'pallets' ? entry.pallets.length : entry.boxes.length;
    return {
      number: `FN-${10_000 + no}`,
      state: this.stateOf(entry.key),
      priceMinor: entry.priced.feeMinor + entry.priced.freightMinor,
      currency: entry.priced.currency,
      freeUntil: this.freeUntil(entry),
      tracking: entry.freight
        ? Array.from({ length: pieces }, (_, i) => `NF${10_000 + no}${String(i + 1).padStart(3, '0')}`)
        : [],
      events: steps.map(({ key, at, sscc, says, late }) => ({ id: key.slice(-60), at, sscc, says, late })),
      counted: steps.flatMap(s => s.counted),
    };
  }
}

const SAYS = {
  travelling: 'Fetched by the carrier.',
  'at dock': 'Arrived at the dock.',
  counting: 'Counting has begun.',
  counted: 'Counted.',
} as const;
