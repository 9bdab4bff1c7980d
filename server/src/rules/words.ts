import { type DecidedField, type DecidedValue, formatMoney } from '@auk/core';

/** A decided value as people read it; `called` has the names of services by their codes. */
export function valueWords(
  field: DecidedField,
  value: DecidedValue,
  currency: string,
  called: ReadonlyMap<string, string>,
): string {
  if (field === 'service') return called.get(String(value)) ?? String(value);
  if (field === 'signature') return value === true ? 'yes' : 'no';
  if (field === 'declare') return value === true ? 'what is in it' : formatMoney(Number(value), currency);
  return value === true ? 'yes' : String(value);
}
