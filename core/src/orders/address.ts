import type { StopReason } from './check.js';

/** A postal address. Country is ISO 3166-1 alpha-2. */
export interface Address {
  name: string;
  company: string;
  line1: string;
  line2: string;
  city: string;
  region: string;
  postcode: string;
  country: string;
  phone: string;
}

/** The fields of an address with their words, in the order of a form. */
export const ADDRESS_FIELDS: [field: keyof Address, words: string][] = [
  ['name', 'name'],
  ['company', 'company'],
  ['line1', 'street'],
  ['line2', 'second line'],
  ['city', 'town'],
  ['region', 'region'],
  ['postcode', 'postcode'],
  ['country', 'country'],
  ['phone', 'telephone'],
];

/** An address with nothing in it but its country. */
export const emptyAddress = (country: string): Address => ({
  name: '',
  company: '',
  line1: '',
  line2: '',
  city: '',
  region: '',
  postcode: '',
  country,
  phone: '',
});

/** Tables of the world, which stay outside the core: ISO 3166-1 countries and the form of postcodes by country. */
export interface AddressTables {
  isCountry(country: string): boolean;
  isPostcode(postcode: string, country: string): boolean;
}

/** Most characters of each printed line that a 4x6 in label holds whole. */
export const LABEL_LINE = 40;

/** Countries whose addresses are not complete without a region (state, province). */
const WITH_REGION = new Set(['US', 'CA', 'AU', 'BR', 'MX', 'IN']);

/** The lines of an address as a label prints them, without the country, each with the field it comes from. */
export function labelLines(a: Address): { field: keyof Address; text: string }[] {
  const town = [a.city, a.region, a.postcode].filter(Boolean).join(' ');
  return [
    { field: 'name' as const, text: a.name },
    { field: 'company' as const, text: a.company },
    { field: 'line1' as const, text: a.line1 },
    { field: 'line2' as const, text: a.line2 },
    { field: 'city' as const, text: town },
  ].filter(l => l.text !== '');
}

/**
 * Finds what keeps a parcel from reaching an address from `home` (a country): country, what is missing, the postcode's form, lines too
 * long for a label, a telephone for abroad. Lengths count characters as people see them, not code units.
 */
export function checkAddress(a: Address, home: string, tables: AddressTables): StopReason[] {
  if (!tables.isCountry(a.country))
    return [
      stop(
        'bad-country',
        'country',
        `“${a.country}” is not a country code.`,
        'Correct the country of the address.',
      ),
    ];
  const reasons: StopReason[] = [];
  const missing = (['name', 'line1', 'city'] as const).find(f => a[f].trim() === '');
  if (missing)
    reasons.push(
      stop(
        'incomplete-address',
        missing,
        `The address has no ${wordsOf(missing)}.`,
        `Add the ${wordsOf(missing)}.`,
      ),
    );
  if (WITH_REGION.has(a.country) && a.region.trim() === '')
    reasons.push(
      stop('incomplete-address', 'region', `An address in ${a.country} needs a region.`, 'Add the region.'),
    );
  if (!tables.isPostcode(a.postcode, a.country))
    reasons.push(
      stop(
        'bad-postcode',
        'postcode',
        `${a.postcode || 'Nothing'} is not a postcode of ${a.country}.`,
        'Correct the postcode.',
      ),
    );
  for (const l of labelLines(a)) {
    const length = [...l.text].length;
    if (length > LABEL_LINE)
      reasons.push(
        stop(
          'long-address',
          l.field,
          `“${[...l.text].slice(0, 20).join('')}…” has ${length} characters; a label line holds ${LABEL_LINE}.`,
          'Shorten the line.',
        ),
      );
  }
  if (a.country !== home && a.phone.trim() === '')
    reasons.push(
      stop(
        'no-phone',
        'phone',
        `A parcel to ${a.country} needs the buyer's telephone number.`,
        'Add the telephone number.',
      ),
    );
  return reasons;
}

const wordsOf = (field: keyof Address): string => ADDRESS_FIELDS.find(([f]) => f === field)![1];
const stop = (code: StopReason['code'], subject: string, says: string, cure: string): StopReason => ({
  code,
  subject,
  says,
  cure,
});

const COUNTRIES = new Intl.DisplayNames(['en'], { type: 'region', fallback: 'code' });

/** The name of a country (ISO 3166-1 alpha-2) in English; the code itself where there is none. Example: `countryName('NL')` is `'Netherlands'`. */
export const countryName = (country: string): string =>
  /^[A-Z]{2}$/.test(country) ? (COUNTRIES.of(country) ?? country) : country;

/**
 * Lines of an address as they stand on paper. The country stands last, by name and in capitals, unless it is the one that the paper is
 * made in (`home`): that is how posts of all countries want it.
 */
export function addressLines(a: Address, home = ''): string[] {
  const last =
    a.country === 'US' ? `${a.city}, ${a.region} ${a.postcode}` : `${a.postcode} ${a.city} ${a.region}`;
  const country = a.country === home ? '' : countryName(a.country).toUpperCase();
  return [a.name, a.company, a.line1, a.line2, last, country].filter(Boolean);
}

/** The line by which a parcel's address names the pick-up point that it goes to. */
export const pointLine = (pickUpPoint: string): string => `Pick-up point: ${pickUpPoint}`;

/** The fields of an address that a label prints in letters of its own script; postcode, country and telephone are Latin everywhere. */
export const LETTERED = ['name', 'company', 'line1', 'line2', 'city', 'region'] as const;

/** True when a text has Latin letters alone, accents included, with digits and signs as they are. Example: `isLatin('Łódź 4')` is true. */
export const isLatin = (text: string): boolean =>
  /^[\p{Script=Latin}\p{Script=Common}\p{Script=Inherited}]*$/u.test(text);

/** True when all of an address that is printed is in Latin letters. */
export const isLatinAddress = (a: Address): boolean => LETTERED.every(f => isLatin(a[f]));
