/** Weather and shore words that are told apart when they are said: 64 of each. */
const FIRST =
  'Quiet Early Silver Windy Misty Amber Northern Southern Salty Gentle Foggy Golden Bright Hidden Rainy Frosty Sunny Hazy Steady Rolling Drifting Sheltered Stormy Still Breezy Copper Distant Evening Morning Midnight Summer Winter Autumn Spring Blue Grey Green White Scarlet Violet Clear Cloudy Cool Warm Wide Narrow Deep Shallow Calm Restless Pale Rosy Icy Sandy Stony Mossy Chalky Dusky Dawning Thawing Western Eastern Lively Hushed'.split(
    ' ',
  );
const SECOND =
  'Harbor Cove Dune Pier Reef Bay Beach Cliff Channel Delta Estuary Fjord Gull Heron Inlet Island Jetty Kelp Lagoon Lighthouse Marsh Mooring Oyster Pebble Quay Ripple Sandbar Shoal Skerry Sound Spit Strand Surf Swell Tide Wharf Anchor Bluff Breaker Buoy Current Driftwood Eddy Foam Headland Landing Limpet Mussel Otter Pelican Petrel Plover Puffin Rockpool Sail Seal Shell Shingle Spray Starfish Tern Undertow Wave Whelk'.split(
    ' ',
  );
const NAMES = FIRST.length * SECOND.length;
/** Odd, so that it walks through all names before one comes again; far from a part of them, so that neighbours are not alike. */
const STEP = 1_613;

/**
 * The call name of the how-manieth inbound shipment, from 1: two words that people can say. Shipments one after another share neither; a
 * name comes again after 4,096 of them. Example: `callName(1)` is `'Quiet Harbor'`.
 */
export function callName(n: number): string {
  const at = ((n - 1) * STEP) % NAMES;
  return `${FIRST[Math.floor(at / SECOND.length)]} ${SECOND[at % SECOND.length]}`;
}
