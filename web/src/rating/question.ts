import type { CompareAsk, ServiceOptions } from '@auk/contract';
import { minorDigits, parseAmount, parseSize, parseWeight } from '@auk/core';

/** What is asked beside carrying, as it stands in the address of the page. */
export function optionsOf(asked: URLSearchParams, currency: string): ServiceOptions {
  const amount = (key: string): number => {
    const read = parseAmount(asked.get(key) ?? '', currency);
    return read.ok && read.value > 0 ? read.value : 0;
  };
  const [valueMinor, cashMinor] = [amount('value'), amount('cash')];
  return {
    ...(asked.get('signature') === 'yes' && { signature: true }),
    ...(asked.get('saturday') === 'yes' && { saturday: true }),
    ...(asked.get('over') === 'counter' && { dropOff: true }),
    ...(asked.get('to') === 'point' && { toPoint: true }),
    ...(asked.get('insured') === 'yes' ? { insured: true } : valueMinor > 0 && { valueMinor }),
    ...(cashMinor > 0 && { cashMinor }),
  };
}

/** What is typed for a parcel without an order, or what is wrong with it. */
export function quoteOf(
  asked: URLSearchParams,
): { ok: true; about: CompareAsk['about'] } | { ok: false; problem: string } {
  const size = parseSize(asked.get('size') ?? '');
  const weight = parseWeight(asked.get('weight') ?? '');
  const country = (asked.get('country') || 'US').toUpperCase();
  const postcode = asked.get('postcode') ?? '';
  if (!/^[A-Z]{2}$/.test(country)) return { ok: false, problem: 'A country is written with two letters.' };
  if (country === 'US' && !/^\d{5}(-\d{4})?$/.test(postcode))
    return { ok: false, problem: 'A postcode has five digits.' };
  if (!weight.ok) return { ok: false, problem: weight.problem };
  if (!size.ok) return { ok: false, problem: size.problem };
  const residential = asked.get('home') !== 'no';
  return {
    ok: true,
    about: { kind: 'quote', postcode, country, residential, size: size.value, weightMg: weight.value },
  };
}

/** An amount as it is typed. Example: `typed(1250, 'USD')` is `'12.50'`. */
export const typed = (minor: number, currency: string): string =>
  (minor / 10 ** minorDigits(currency)).toFixed(minorDigits(currency));
