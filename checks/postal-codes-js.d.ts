declare module 'postal-codes-js' {
  /** True for a postcode of the country's form, else a sentence. */
  export function validate(country: string, postcode: string): true | string;
}
