import { lineAtHand, type PackState, parseScan, parseSize, type Size } from '@auk/core';
import { isButton } from '../rules/target.js';
import type { Trouble } from './packAnswer.js';

/** Where the order at the bench stands, as far as what a scan does depends on it. */
export interface AtHand {
  state: PackState;
  closed: boolean;
  /** Its labels are bought and right, or it wants none: any code opens the next. */
  over: boolean;
  mayChange: boolean;
  mayVoid: boolean;
}

/** What a scan at the bench is for. */
export type BenchAct =
  | { act: 'leave' | 'reopen' | 'void' | 'buy first' | 'change' | 'weigh' | 'photo' | 'open' | 'scan' }
  | { act: 'press'; code: string }
  | { act: 'measure'; sku: string; size: Size }
  | { act: 'fail'; trouble: Trouble };

/** Tells what a scan is for: an act of the bench, another order, or a piece of the one at hand. */
export function benchActOf(text: string, at: AtHand): BenchAct {
  const code = text.trim().toUpperCase();
  if (code === 'AUK-ASIDE') return { act: 'leave' };
  if (isButton(code)) return { act: 'press', code };
  if (at.closed) return closedActOf(text, code, at);
  if (code === 'AUK-CHANGE') return at.mayChange ? { act: 'change' } : { act: 'fail', trouble: NO_RIGHT };
  if (code === 'AUK-WEIGH') return { act: 'weigh' };
  if (code === 'AUK-PHOTO') return { act: 'photo' };
  const sku = sizeWanted(at.state);
  const size = sku === null ? null : parseSize(text);
  if (sku !== null && size?.ok) return { act: 'measure', sku, size: size.value };
  const another = code !== at.state.orderNo && !begun(at.state) && opensAnother(text, false);
  return { act: another ? 'open' : 'scan' };
}

function closedActOf(text: string, code: string, at: AtHand): BenchAct {
  if (code === 'AUK-REOPEN') return { act: 'reopen' };
  if (code === 'AUK-VOID') return at.mayVoid ? { act: 'void' } : { act: 'fail', trouble: NOTHING_TO_VOID };
  if (code === 'AUK-LABEL') return { act: 'buy first' };
  return { act: opensAnother(text, at.over) ? 'open' : 'scan' };
}

const NO_RIGHT: Trouble = {
  says: 'You may not change what the order wants.',
  cure: 'Ask the lead, who can do it here or give you that right.',
};
const NOTHING_TO_VOID: Trouble = {
  says: 'There is no bought label here that you may void.',
  cure: 'Ask the lead, who can do it here or give you that right.',
};

/** Codes that open another order. */
const OPENS = new Set(['order', 'tote', 'parcel', 'list']);

/** Whether a scan opens another order; when this one is over, everything that can be read does. */
function opensAnother(text: string, over: boolean): boolean {
  const parsed = parseScan(text, 2000);
  if (!parsed.ok) return false;
  return over || (parsed.value.type === 'own' && OPENS.has(parsed.value.kind));
}

/** True when something is in or asked: another slip must not take the order away. */
const begun = (state: PackState): boolean =>
  state.asking !== null || state.lines.some(l => l.packed > 0 || l.kitParts.some(k => k.scanned > 0));

/** The SKU whose size is wanted: of the line at hand, else of the first without one. While something is asked, a text is its answer. */
function sizeWanted(state: PackState): string | null {
  const unsized = state.lines.filter(l => l.piece && !l.piece.size);
  const hand = state.lines[lineAtHand(state)];
  const line = unsized.find(l => l === hand) ?? unsized[0];
  return state.asking === null && line ? line.product.sku : null;
}
