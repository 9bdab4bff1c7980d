declare module 'gtin' {
  export function isValid(code: string): boolean;
}
declare module 'gs1' {
  export function validate(code: string): boolean;
}
declare module 'zipcodes' {
  export function distance(from: string, to: string): number | null;
  export function lookup(zip: string): { latitude: number; longitude: number } | undefined;
}
