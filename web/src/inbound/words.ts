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
