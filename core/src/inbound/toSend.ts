/** What is known of a product and a network, to propose how much to send. Units; the rate is units a day, null while sales are unknown. */
export interface SendFacts {
  ratePerDay: number | null;
  weeks: number;
  /** What lies at the centers, and what is on its way there. */
  there: number;
  onTheWay: number;
  /** What the house can spare. */
  free: number;
  /** Units a case; whole cases are sent where it is given. */
  perCase: number | null;
}

/** What is proposed: units, and why it is not more, or none. */
export interface SendProposal {
  units: number;
  /** What would be wanted if all of it were here. */
  wanted: number;
  says: string;
}

/**
 * How much to send: what will be sold in so many weeks, less what is there and on its way, in whole cases (the last case is filled), and
 * never more than is free. Example: 4 a day for 6 weeks are 168; 60 there and 20 on the way leave 88; in cases of 12 that is 96.
 */
export function unitsToSend(f: SendFacts): SendProposal {
  if (f.ratePerDay === null)
    return { units: 0, wanted: 0, says: 'How much of it is sold is not known; say how much to send.' };
  const lacks = Math.max(0, Math.ceil(f.ratePerDay * 7 * f.weeks) - f.there - f.onTheWay);
  const each = f.perCase ?? 1;
  const wanted = Math.ceil(lacks / each) * each;
  const units = Math.min(wanted, Math.floor(Math.max(0, f.free) / each) * each);
  if (wanted === 0) return { units, wanted, says: 'What is there and on its way lasts.' };
  if (units < wanted) return { units, wanted, says: `${wanted} would be wanted; ${units} can go now.` };
  return { units, wanted, says: '' };
}
