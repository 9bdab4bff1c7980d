import type { ServiceRates } from '../rating/rateSheet.js';

/** What a network's own carrier takes: so much a piece and so much a kilogram (minor units), and the business days. */
export interface TheirFreight {
  name: string;
  pieceMinor: number;
  kilogramMinor: number;
  days: number;
}

const KILOGRAM = 1_000_000;
/** Pieces are priced up to this weight; nothing heavier is one piece. */
const MOST_KG = 1_000;

/**
 * The freight of a network as one service of a rate sheet, for addresses in some countries, so that it is rated as all others are: each
 * begun kilogram counts. Example: 4.20 a piece and 0.38 a kilogram make 8.00 for 9.5 kg.
 */
export function theirRates(f: TheirFreight, countries: readonly string[]): ServiceRates {
  return {
    service: f.name,
    name: f.name,
    step: { count: 1, unit: 'kg', mg: KILOGRAM },
    dim: null,
    leastMinor: 0,
    fuelPpm: 0,
    leastMg: 0,
    mostSide: null,
    mostGirth: null,
    zones: ['1'],
    reaches: countries.map(country => ({ zone: '1', country, days: f.days })),
    weights: Array.from({ length: MOST_KG }, (_, i) => ({
      upToMg: (i + 1) * KILOGRAM,
      prices: [f.pieceMinor + (i + 1) * f.kilogramMinor],
    })),
    cubic: [],
    surcharges: [],
  };
}
