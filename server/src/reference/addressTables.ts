import { iso31661 } from 'iso-3166';
import { postcodeValidator, postcodeValidatorExistsForCountry } from 'postcode-validator';

const COUNTRIES = new Set(iso31661.filter(c => c.state === 'assigned').map(c => c.alpha2 as string));

/** Tables of the world that the core's address check asks: ISO 3166-1 countries and postcode forms by country. */
export const ADDRESS_TABLES = {
  isCountry: (country: string): boolean => COUNTRIES.has(country),
  /** A country without a known form takes any postcode. */
  isPostcode: (postcode: string, country: string): boolean => {
    if (!postcodeValidatorExistsForCountry(country)) return postcode.length <= 16;
    try {
      return postcodeValidator(postcode, country);
    } catch {
      return postcode.length <= 16;
    }
  },
};
