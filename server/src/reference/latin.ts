import { type Address, isLatin, LETTERED } from '@auk/core';
import anyAscii from 'any-ascii';

/** An address in Latin letters as it might be: what is Latin stays as it is, the rest is written as it sounds. For a person to look at. */
export const proposeLatin = (a: Address): Address => ({
  ...a,
  ...Object.fromEntries(LETTERED.map(f => [f, isLatin(a[f]) ? a[f] : anyAscii(a[f]).trim()])),
});
