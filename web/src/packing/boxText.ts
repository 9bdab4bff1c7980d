import type { BoxIn, BoxRow } from '@auk/contract';
import {
  formatSize,
  formatWeight,
  minorDigits,
  parseAmount,
  parseSize,
  parseWeight,
  type Result,
  type Size,
} from '@auk/core';

/** A box as it is typed: sizes and weights with their units, the price in the house's currency, nothing for a stock that nobody counts. */
export interface BoxText {
  code: string;
  name: string;
  kind: BoxIn['kind'];
  size: string;
  tare: string;
  limit: string;
  price: string;
  stock: string;
  retired: boolean;
}

export const NEW_BOX: BoxText = {
  code: 'BX-',
  name: '',
  kind: 'box',
  size: '',
  tare: '',
  limit: '',
  price: '',
  stock: '',
  retired: false,
};

/** The first of some texts that is read as what it stands for: what nobody changes is saved as it was. */
const exact = (texts: readonly string[], isIt: (text: string) => boolean): string =>
  texts.find(isIt) ?? texts.at(-1)!;

const sizeText = (b: Size): string =>
  exact(
    [
      formatSize(b, 'imperial'),
      formatSize(b, 'metric'),
      `${b.length / 100} × ${b.width / 100} × ${b.height / 100} cm`,
    ],
    text => {
      const read = parseSize(text);
      return (
        read.ok &&
        read.value.length === b.length &&
        read.value.width === b.width &&
        read.value.height === b.height
      );
    },
  );

const weightText = (mg: number): string =>
  exact([formatWeight(mg, 'imperial'), formatWeight(mg, 'metric'), `${mg / 1000} g`], text => {
    const read = parseWeight(text);
    return read.ok && read.value === mg;
  });

export const textOf = (b: BoxRow, currency: string): BoxText => ({
  code: b.code,
  name: b.name,
  kind: b.kind,
  size: sizeText(b),
  tare: b.tareMg > 0 ? weightText(b.tareMg) : '',
  limit: weightText(b.limitMg),
  price: (b.priceMinor / 10 ** minorDigits(currency)).toFixed(minorDigits(currency)),
  stock: b.stock === null ? '' : String(b.stock),
  retired: b.retired,
});

/** Reads what was typed; what cannot be read says so by its field. */
export function readBox(t: BoxText, currency: string): Result<BoxIn, string> {
  const size = parseSize(t.size);
  if (!size.ok) return { ok: false, problem: `Inner size: ${size.problem}` };
  const limit = parseWeight(t.limit);
  if (!limit.ok) return { ok: false, problem: `Carries: ${limit.problem}` };
  const tare = t.tare.trim() === '' ? { ok: true as const, value: 0 } : parseWeight(t.tare);
  if (!tare.ok) return { ok: false, problem: `Empty weight: ${tare.problem}` };
  const price = parseAmount(t.price, currency);
  if (!price.ok || price.value < 0) return { ok: false, problem: 'Price: an amount such as 1.40.' };
  if (!/^\d{0,6}$/.test(t.stock.trim()))
    return { ok: false, problem: 'In stock: a whole number, or nothing when nobody counts.' };
  if (!/^BX-[A-Z0-9]{1,12}$/.test(t.code))
    return { ok: false, problem: 'Code: BX- and letters or digits, such as BX-7.' };
  if (t.name.trim() === '') return { ok: false, problem: 'Name: how the box is called.' };
  return {
    ok: true,
    value: {
      code: t.code,
      name: t.name.trim(),
      kind: t.kind,
      ...size.value,
      tareMg: tare.value,
      limitMg: limit.value,
      priceMinor: price.value,
      stock: t.stock.trim() === '' ? null : Number(t.stock),
      retired: t.retired,
    },
  };
}
