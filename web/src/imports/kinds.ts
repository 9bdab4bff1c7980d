import type { ImportKind } from '@auk/contract';

/** What can be brought in: its words, whether it is a channel's, and what the file is about. */
export const KINDS: Record<ImportKind, { words: string; ofChannel: boolean; hint: string; thing: string }> = {
  orders: {
    words: 'Orders',
    ofChannel: true,
    thing: 'order',
    hint: 'One row a line; rows of one number are one order. The same file twice changes nothing.',
  },
  products: {
    words: 'Products',
    ofChannel: false,
    thing: 'product',
    hint: 'One row a product. Filled cells change it, empty ones leave it, “none” empties a field.',
  },
  listings: {
    words: 'Listings',
    ofChannel: true,
    thing: 'listing',
    hint: 'One row a listing, with our SKU where it is to be linked.',
  },
  recipes: {
    words: 'Recipes',
    ofChannel: false,
    thing: 'recipe',
    hint: 'One row a part of a kit or bundle. A changed recipe is a new version; orders that are here keep theirs.',
  },
  stock: {
    words: 'Counted stock',
    ofChannel: false,
    thing: 'place',
    hint: 'One row a product and a bin: what was counted there.',
  },
  places: {
    words: 'Places',
    ofChannel: false,
    thing: 'place',
    hint: 'One row a place: the code on its shelf; one like A-07-2 also tells aisle A, bay 7, level 2. Kinds: pick face, reserve, dock, staging, bench, quarantine.',
  },
  layout: {
    words: 'Floor',
    ofChannel: false,
    thing: 'thing',
    hint: 'One row an aisle (x, from, to), a cross aisle (y, from, to), the start or end of walks, or a place (its aisle, how far along it, its side). Lengths in m, or say ft. A floor that cannot be walked is not taken.',
  },
  purchases: {
    words: 'Purchase orders',
    ofChannel: false,
    thing: 'order',
    hint: 'One row a line; rows of one supplier and reference are one order. One that is here already stays as it is.',
  },
  sent: {
    words: 'Sent by suppliers',
    ofChannel: false,
    thing: 'order',
    hint: 'One row an order that a supplier sent to its buyer: its number or that of the purchase order, the carrier, the tracking number. Told twice it counts once.',
  },
};
