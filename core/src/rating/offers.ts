/** A service with its arrival day, as offered for a choice. */
export interface Offer {
  carrier: string;
  service: string;
  minor: number;
  /** ISO day of arrival. */
  arrives: string;
}

/** What a choice says of an offer: whether it keeps the promised day, and whether it is the cheapest that does, or the fastest. */
export interface Marked {
  keeps: boolean;
  cheapest: boolean;
  fastest: boolean;
}

/**
 * Orders offers for the choice: those that arrive by the promised day first, cheapest first among them; then the late ones, the
 * earliest first. Ties by carrier and service. Without a promised day, cheapest first. The first that keeps the day is the cheapest in
 * time; the earliest, and of those the cheapest, is the fastest.
 */
export function rankOffers<T extends Offer>(offers: readonly T[], promised: string | null): (T & Marked)[] {
  const ranked = offers
    .map(o => ({
      ...o,
      keeps: promised === null || o.arrives <= promised,
      cheapest: false,
      fastest: false,
    }))
    .sort(
      (a, b) =>
        Number(b.keeps) - Number(a.keeps) ||
        (a.keeps ? a.minor - b.minor : a.arrives.localeCompare(b.arrives) || a.minor - b.minor) ||
        `${a.carrier} ${a.service}`.localeCompare(`${b.carrier} ${b.service}`),
    );
  const first = ranked[0];
  if (!first) return [];
  first.cheapest = first.keeps;
  let fastest = first;
  for (const o of ranked)
    if (o.arrives < fastest.arrives || (o.arrives === fastest.arrives && o.minor < fastest.minor))
      fastest = o;
  fastest.fastest = true;
  return ranked;
}
