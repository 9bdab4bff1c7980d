import { convert, type ExchangeRates } from '../money/convert.js';
import { formatMoney } from '../money/money.js';

export type CustomsForm = 'CN 22' | 'CN 23';

/** Special drawing rights, the unit in which the postal union states its limits. Minor units are hundredths. */
export const SDR = 'XDR';

/** A CN 22 serves items of at most this value in hundredths of an SDR, and of at most this weight in milligrams; CN 23 serves all. Universal Postal Union, Convention Manual (from memory). */
export const CN22_MOST = { sdrMinor: 30_000, mg: 2_000_000 };

/**
 * Which declaration goes on a parcel of a value in minor units of a currency, and why, by the rates that count on its day. Without a rate
 * of the SDR the longer form is taken, which is never wrong.
 */
export function customsForm(
  parcel: { valueMinor: number; currency: string; weightMg: number },
  rates: ExchangeRates,
  house: string,
): { form: CustomsForm; why: string } {
  const sdr = convert(parcel.valueMinor, parcel.currency, SDR, rates, house);
  if (sdr === null)
    return { form: 'CN 23', why: `No rate of the SDR is stored, so that CN 22 cannot be proved to do.` };
  const worth = `${formatMoney(parcel.valueMinor, parcel.currency)} are ${(sdr / 100).toFixed(2)} SDR`;
  if (sdr > CN22_MOST.sdrMinor) return { form: 'CN 23', why: `${worth}, over 300.` };
  if (parcel.weightMg > CN22_MOST.mg)
    return { form: 'CN 23', why: `It weighs ${(parcel.weightMg / 1e6).toFixed(2)} kg, over 2.` };
  return { form: 'CN 22', why: `${worth} and ${(parcel.weightMg / 1e6).toFixed(2)} kg.` };
}
