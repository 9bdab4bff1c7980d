const WEIGHTS = [8, 6, 4, 2, 3, 5, 9, 7] as const;

/** Check digit of a postal item number's eight digits (UPU S10: weights 8 6 4 2 3 5 9 7, modulo 11; 10 gives 0, 11 gives 5). Example: `s10CheckDigit('47312482')` is 9. */
export function s10CheckDigit(serial: string): number {
  const sum = WEIGHTS.reduce<number>((s, w, i) => s + w * Number(serial[i]), 0);
  const rest = 11 - (sum % 11);
  return rest === 10 ? 0 : rest === 11 ? 5 : rest;
}

/** True for 13 characters of UPU S10 with a right check digit. Example: `isS10('RA473124829FI')`. */
export function isS10(text: string): boolean {
  const m = /^[A-Z]{2}(\d{8})(\d)[A-Z]{2}$/.exec(text);
  return m !== null && s10CheckDigit(m[1]!) === Number(m[2]);
}

/** Builds an S10 number from a two-letter service, a serial (0 to 99 999 999) and a two-letter country. */
export function makeS10(service: string, serial: number, country: string): string {
  const digits = String(serial).padStart(8, '0');
  return `${service}${digits}${s10CheckDigit(digits)}${country}`;
}
