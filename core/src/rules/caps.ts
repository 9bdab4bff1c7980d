import { formatMoney } from '../money/money.js';
import { fail, ok, type Result } from '../result.js';

/** Most that may be spent unattended, minor units of the house's currency: on one label, in a day, and by a rule in a day. Null is no cap, and no cap is no buying. */
export interface SpendCaps {
  labelMinor: number | null;
  dayMinor: number | null;
  ruleMinor: number | null;
}

/** What of a day is spent or held already: by all rules, and by the one that asks. */
export interface SpentToday {
  dayMinor: number;
  ruleMinor: number;
}

/** Why nothing is bought unattended, with what to do about it. */
export interface CapRefusal {
  code: 'paused' | 'no cap' | 'over the label cap' | 'over the day cap' | 'over the rule cap';
  says: string;
  cure: string;
}

const NO_CAP = (which: string): CapRefusal => ({
  code: 'no cap',
  says: `No cap ${which} is set, and without one nothing is bought unattended.`,
  cure: 'Set it under Rules > Caps, or buy the label by hand.',
});

/**
 * Whether a label may be bought unattended: every cap must be set, and hold with this label's price in it. Example: with 20.00 of a
 * day's 25.00 held, a label of 5.00 is bought and one of 5.01 is not.
 */
export function maySpend(
  minor: number,
  caps: SpendCaps,
  spent: SpentToday,
  currency: string,
  paused: boolean,
): Result<null, CapRefusal> {
  const money = (n: number) => formatMoney(n, currency);
  if (paused)
    return fail({
      code: 'paused',
      says: 'Buying unattended is paused.',
      cure: 'Lift the pause, or buy the label by hand.',
    });
  if (caps.labelMinor === null) return fail(NO_CAP('for one label'));
  if (caps.dayMinor === null) return fail(NO_CAP('for a day'));
  if (caps.ruleMinor === null) return fail(NO_CAP('for this rule'));
  if (minor > caps.labelMinor)
    return fail({
      code: 'over the label cap',
      says: `The label costs ${money(minor)}, and ${money(caps.labelMinor)} is the most for one label.`,
      cure: 'Buy it by hand, or raise the cap.',
    });
  const over = (code: CapRefusal['code'], held: number, cap: number, of: string): CapRefusal => ({
    code,
    says: `The label costs ${money(minor)}; ${money(held)} of ${money(cap)} ${of} is spent or held today.`,
    cure: 'Buy it by hand, wait for tomorrow, or raise the cap.',
  });
  if (spent.dayMinor + minor > caps.dayMinor)
    return fail(over('over the day cap', spent.dayMinor, caps.dayMinor, 'for all rules'));
  if (spent.ruleMinor + minor > caps.ruleMinor)
    return fail(over('over the rule cap', spent.ruleMinor, caps.ruleMinor, 'for this rule'));
  return ok(null);
}
