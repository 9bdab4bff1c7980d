/** Where goods of a shipment come from, and how they are stored at the center. */
export const SOURCES = [
  ['house', 'our own house'],
  ['supplier', 'a supplier'],
  ['abroad', 'abroad'],
] as const;
export const STORAGES = [
  ['near', 'near storage: ready for orders'],
  ['deep', 'deep storage: long-term'],
] as const;
export const HANDED = [
  ['fetched', 'it is fetched here'],
  ['brought', 'we bring it to the carrier'],
] as const;
/** What a driver finds who fetches it. */
export const AT_DOOR = [
  ['dock', 'a dock'],
  ['home', 'a home'],
  ['hard to reach', 'a place that is hard to reach'],
] as const;
