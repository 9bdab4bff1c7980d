import { minorDigits, parseAmount } from '../money/money.js';
import { parseRate } from '../money/round.js';
import { fail, ok, type Result } from '../result.js';
import { MG, parseWeight, TENTHS } from '../units/units.js';
import type { DimDivisor, RateSheet, ServiceRates, SurchargeWhen, WeightStep } from './rateSheet.js';
import { plainPostcode } from './zones.js';

/** A row that cannot be read, counted as a spreadsheet shows it, with why and what to write instead. */
export interface BadSheetRow {
  row: number;
  why: string;
}

/** Most services, price rows of a service, and zones: more is a mistake. */
const MOST = { services: 60, rows: 500, zones: 200, zone: 20 };

/**
 * Reads a rate sheet from the cells of a CSV file. The first cell of a row says what the row is: `sheet`, `service`, `prices`, `zone`,
 * `weight`, `cubic` or `surcharge`; the second whose (`*` for all services of the sheet). docs/formats.md has all of it. Every bad row is
 * named, gaps and overlaps of weights too; a sheet with one is not taken. Example: `['weight', 'parcel', '1 lb', '7.10', '7.40']`.
 */
export function readRateSheet(rows: readonly (readonly string[])[]): Result<RateSheet, BadSheetRow[]> {
  const reader = new SheetReader();
  rows.forEach((cells, i) => {
    const row = cells.map(c => c.trim());
    if (row.some(c => c !== '') && !row[0]!.startsWith('#')) reader.row(i + 1, row);
  });
  return reader.done();
}

type Draft = ServiceRates & { row: number };
/** What is wrong with a row, and ends its reading; null when nothing is. */
type Problem = string | null;

class SheetReader {
  private readonly bad: BadSheetRow[] = [];
  private readonly services = new Map<string, Draft>();
  private sheet: Pick<RateSheet, 'name' | 'currency' | 'from'> | null = null;
  private at = 0;

  row(at: number, cells: string[]): void {
    this.at = at;
    const [kind, whose = '', ...rest] = cells as [string, ...string[]];
    const readers = new Map<string, () => Problem>([
      ['sheet', () => this.readSheet(cells)],
      ['service', () => this.readService(whose, rest)],
      ['prices', () => this.readPrices(whose, rest)],
      ['zone', () => this.readZone(whose, rest)],
      ['weight', () => this.readWeight(whose, rest)],
      ['cubic', () => this.readCubic(whose, rest)],
      ['surcharge', () => this.readSurcharge(whose, rest)],
    ]);
    const reader = readers.get(kind.toLowerCase());
    const wrong = reader
      ? reader()
      : `a row begins with ${[...readers.keys()].join(', ')} or #, not with "${kind.slice(0, 30)}"`;
    if (wrong) this.say(wrong);
  }

  done(): Result<RateSheet, BadSheetRow[]> {
    if (!this.sheet) this.bad.unshift({ row: 1, why: 'the first row is: sheet, name, currency, day from' });
    if (this.services.size === 0) this.bad.push({ row: this.at, why: 'there is no service in it' });
    for (const s of this.services.values()) this.checkWhole(s);
    if (!this.sheet || this.bad.length > 0) return fail(this.bad);
    return ok({
      ...this.sheet,
      services: [...this.services.values()].map(({ row: _, ...service }) => service),
    });
  }

  private say(why: string, row = this.at): void {
    this.bad.push({ row, why });
  }

  private of(whose: string): Draft[] {
    if (whose === '*') return [...this.services.values()];
    const found = this.services.get(whose);
    if (!found) this.say(`there is no service "${whose.slice(0, 40)}" above this row`);
    return found ? [found] : [];
  }

  private readSheet([, name = '', currency = '', from = '']: string[]): Problem {
    const day = /^(?:from )?(\d{4}-\d\d-\d\d)$/.exec(from)?.[1];
    if (this.sheet) return 'the sheet has been named already';
    this.sheet = { name, currency, from: day ?? '' };
    if (name === '' || name.length > 80) return 'a name of up to 80 letters is wanted';
    if (!/^[A-Z]{3}$/.test(currency))
      return `"${currency.slice(0, 20)}" is no currency; write its three letters`;
    return day && !Number.isNaN(Date.parse(day))
      ? null
      : `"${from.slice(0, 20)}" is no day such as 2027-01-01`;
  }

  private readService(code: string, [name = '', ...words]: string[]): Problem {
    if (!/^[a-z0-9-]{1,40}$/.test(code)) return 'a service has a code of small letters, digits and dashes';
    if (this.services.has(code)) return `the service "${code}" stands twice`;
    if (this.services.size >= MOST.services) return 'that is more services than a sheet may have';
    const service = emptyService(code, name, this.at);
    this.services.set(code, service);
    for (const word of words.filter(Boolean)) {
      const wrong = this.readTrait(service, word);
      if (wrong) this.say(wrong);
    }
    return name === '' || name.length > 80 ? 'a service has a name of up to 80 letters' : null;
  }

  /** One trait of a service, such as `step 1 lb`, `divisor 139 in/lb`, `least 7.10`, `fuel 8.5 %`, `from 151 lb`, `side up to 48 in`, `girth up to 108 in`. */
  private readTrait(service: ServiceRates, word: string): Problem {
    const [, name = '', value = ''] =
      /^(step|divisor|least|fuel|from|side up to|girth up to)\s+(.+)$/i.exec(word) ?? [];
    const puts: Record<string, () => unknown> = {
      step: () => put(readStep(value), v => Object.assign(service, { step: v })),
      divisor: () => put(readDivisor(value), v => Object.assign(service, { dim: v })),
      least: () => put(this.amount(value), v => Object.assign(service, { leastMinor: v })),
      fuel: () => put(readShare(value), v => Object.assign(service, { fuelPpm: v })),
      from: () => put(readWeight(value), v => Object.assign(service, { leastMg: v })),
      'side up to': () => put(readLength(value), v => Object.assign(service, { mostSide: v })),
      'girth up to': () => put(readLength(value), v => Object.assign(service, { mostGirth: v })),
    };
    const reader = puts[name.toLowerCase()];
    if (!reader) return `"${word.slice(0, 40)}" is none of ${Object.keys(puts).join(', ')}`;
    return reader() ? null : `"${word.slice(0, 40)}" cannot be read`;
  }

  private readPrices(whose: string, cells: string[]): Problem {
    const zones = cells.filter(Boolean);
    if (zones.length === 0 || zones.length > MOST.zones || new Set(zones).size < zones.length)
      return 'the zones stand once each behind the service, one a column';
    if (zones.some(z => z.length > MOST.zone)) return `a zone has a name of up to ${MOST.zone} letters`;
    for (const s of this.of(whose))
      if (s.zones.length > 0) this.say(`${s.service} has its zones already`);
      else s.zones = zones;
    return null;
  }

  private readZone(whose: string, [zone = '', country = '', where = '', days = '']: string[]): Problem {
    const miles = /^(?:miles )?up to (\d+(?:\.\d+)?)(?: mi| miles)?$/i.exec(where)?.[1];
    const prefixes = /^postcode (.+)$/i.exec(where)?.[1]?.split(/\s+/);
    const n = /^(\d{1,2})(?: days?)?$/.exec(days)?.[1];
    if (!/^[A-Z]{2}$/.test(country)) return 'a country is written with its two letters';
    if (where !== '' && !miles && !prefixes)
      return `"${where.slice(0, 40)}" is neither "postcode 967 968" nor "up to 150 mi" nor empty`;
    if (!n) return `"${days.slice(0, 20)}" is no number of business days`;
    for (const s of this.of(whose)) {
      const reach = { zone, country, days: Number(n) };
      if (!s.zones.includes(zone))
        this.say(`${s.service} has no prices for zone ${zone.slice(0, 20)}; its prices row stands above`);
      else if (prefixes) for (const p of prefixes) s.reaches.push({ ...reach, prefix: plainPostcode(p) });
      else s.reaches.push(miles ? { ...reach, milesUpTo: Number(miles) } : reach);
    }
    return null;
  }

  private readWeight(whose: string, [upTo = '', ...cells]: string[]): Problem {
    const weight = parseWeight(upTo);
    if (!weight.ok) return `"${upTo.slice(0, 20)}": ${weight.problem}`;
    for (const s of this.of(whose)) {
      const prices = this.prices(s, cells);
      if (weight.value <= (s.weights.at(-1)?.upToMg ?? 0))
        this.say(`the row up to ${upTo.slice(0, 20)} overlaps the one above it; weights go upwards`);
      else if (s.weights.length >= MOST.rows) return 'that is more rows than a service may have';
      else if (prices) s.weights.push({ upToMg: weight.value, prices });
    }
    return null;
  }

  private readCubic(whose: string, [upTo = '', ...cells]: string[]): Problem {
    const feet = Number(/^(\d+(?:\.\d+)?) ?(?:cu ft)?$/i.exec(upTo)?.[1] ?? Number.NaN);
    if (!(feet > 0)) return `"${upTo.slice(0, 20)}" is no volume such as 0.3 cu ft`;
    for (const s of this.of(whose)) {
      const prices = this.prices(s, cells);
      if (feet <= (s.cubic.at(-1)?.upToFeet ?? 0))
        this.say(`the tier up to ${upTo.slice(0, 20)} overlaps the one above it; tiers go upwards`);
      else if (prices) s.cubic.push({ upToFeet: feet, prices });
    }
    return null;
  }

  private prices(s: ServiceRates, cells: string[]): (number | null)[] | null {
    const given = cells.slice(0, lastFilled(cells) + 1);
    if (s.zones.length === 0) this.say(`${s.service} needs its prices row first: it names the zones`);
    else if (given.length > s.zones.length)
      this.say(
        `${given.length} prices for ${s.zones.length} zones; if cents stand behind a comma, part the columns with semicolons or write points`,
      );
    else {
      const read = s.zones.map((_, i) => (given[i] ? this.amount(given[i]) : null));
      const wrong = s.zones.findIndex((_, i) => given[i] && read[i] === null);
      if (wrong === -1) return read;
      this.say(`"${given[wrong]!.slice(0, 20)}" in zone ${s.zones[wrong]} is no price such as 7.10`);
    }
    return null;
  }

  private readSurcharge(whose: string, [name = '', when = '', much = '']: string[]): Problem {
    if (name === '' || name.length > 60) return 'a surcharge has a name of up to 60 letters';
    const due = this.readWhen(when);
    if (!due) return `"${when.slice(0, 40)}" is none of ${WHENS}`;
    const share = much.endsWith('%');
    const [ppm, minor] = share ? [parseRate(much), null] : [null, this.signed(much)];
    if (ppm === null && minor === null)
      return `"${much.slice(0, 20)}" is neither an amount nor a share such as 2.5 %`;
    for (const s of this.of(whose))
      s.surcharges.push({ name, when: due, ...(minor !== null && { minor }), ...(ppm !== null && { ppm }) });
    return null;
  }

  private readWhen(text: string): SurchargeWhen | null {
    const plain = /^(always|home|signature|saturday|drop-off|point|cash)$/i.exec(text)?.[1]?.toLowerCase();
    if (plain) return { kind: plain as 'always' };
    const value = /^value over (\S+) each (\S+)$/i.exec(text);
    if (value) {
      const [overMinor, eachMinor] = [this.amount(value[1]!), this.amount(value[2]!)];
      return overMinor !== null && eachMinor ? { kind: 'value', overMinor, eachMinor } : null;
    }
    const postcode = /^postcode (.+)$/i.exec(text)?.[1];
    if (postcode) return { kind: 'postcode', prefixes: postcode.split(/\s+/).map(plainPostcode) };
    const over = /^(girth|side|weight) over (.+)$/i.exec(text);
    if (!over) return null;
    const kind = over[1]!.toLowerCase();
    if (kind === 'weight') {
      const overMg = readWeight(over[2]!);
      return overMg === null ? null : { kind, overMg };
    }
    const overTenths = readLength(over[2]!);
    return overTenths === null ? null : { kind: kind as 'girth', overTenths };
  }

  /** An amount of the sheet's currency that is not less than nothing. */
  private amount(text: string): number | null {
    const minor = this.signed(text);
    return minor !== null && minor >= 0 ? minor : null;
  }

  private signed(text: string): number | null {
    const currency = this.sheet?.currency ?? '';
    if (!/^[A-Z]{3}$/.test(currency) || minorDigits(currency) === undefined) return null;
    const amount = parseAmount(text, currency);
    return amount.ok ? amount.value : null;
  }

  /** What only the whole of a service shows: prices without a way to them, zones that nobody reaches, gaps between weights. */
  private checkWhole(s: Draft): void {
    if (s.weights.length === 0 && s.cubic.length === 0) this.say(`${s.service} has no prices`, s.row);
    const unreached = s.zones.filter(z => !s.reaches.some(r => r.zone === z));
    if (unreached.length > 0)
      this.say(`nothing says which addresses are in zone ${unreached[0]} of ${s.service}`, s.row);
    for (const [i, zone] of s.zones.entries()) {
      const served = s.weights.map(w => w.prices[i] !== null);
      if (served.lastIndexOf(true) > served.indexOf(false) && served.includes(false))
        this.say(`${s.service} has a gap in zone ${zone}: a price is missing between two others`, s.row);
    }
    if (s.weights.some(w => Math.abs(w.upToMg / s.step.mg - Math.round(w.upToMg / s.step.mg)) > 0.001))
      this.say(`a weight of ${s.service} is no whole number of its steps`, s.row);
  }
}

const WHENS =
  'always, home, signature, saturday, drop-off, point, cash, value over 100 each 100, girth over 84 in, side over 48 in, weight over 50 lb, postcode 967 968';

const emptyService = (service: string, name: string, row: number): Draft => ({
  row,
  service,
  name,
  step: { count: 1, unit: 'lb', mg: MG.lb },
  dim: null,
  leastMinor: 0,
  leastMg: 0,
  fuelPpm: 0,
  mostSide: null,
  mostGirth: null,
  zones: [],
  reaches: [],
  weights: [],
  cubic: [],
  surcharges: [],
});

/** Puts what was read where it belongs; false when it could not be read. */
function put<T>(read: T | null, into: (value: T) => void): boolean {
  if (read === null) return false;
  into(read);
  return true;
}

const lastFilled = (cells: readonly string[]): number =>
  cells.reduce((last, c, i) => (c === '' ? last : i), -1);

function readStep(text: string): WeightStep | null {
  const m = /^(\d+(?:\.\d+)?)\s*(oz|lb|kg)$/i.exec(text);
  const unit = m?.[2]?.toLowerCase() as WeightStep['unit'];
  const count = Number(m?.[1]);
  return m && count > 0 ? { count, unit, mg: count * MG[unit] } : null;
}

function readDivisor(text: string): DimDivisor | null {
  const m = /^(\d+(?:\.\d+)?)\s*(in\/lb|cm\/kg)$/i.exec(text);
  return m && Number(m[1]) > 0
    ? { value: Number(m[1]), unit: m[2]!.toLowerCase() as DimDivisor['unit'] }
    : null;
}

function readLength(text: string): number | null {
  const m = /^(\d+(?:\.\d+)?)\s*(in|cm|mm)$/i.exec(text);
  return m ? Math.round(Number(m[1]) * TENTHS[m[2]!.toLowerCase() as 'in']) : null;
}

/** A share that is not less than nothing. */
function readShare(text: string): number | null {
  const ppm = parseRate(text);
  return ppm !== null && ppm >= 0 ? ppm : null;
}

function readWeight(text: string): number | null {
  const weight = parseWeight(text);
  return weight.ok ? weight.value : null;
}
