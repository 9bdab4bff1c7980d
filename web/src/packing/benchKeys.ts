import type { ScanIn } from '@auk/contract';
import { lineAtHand, openNotes, type PackState, packLineOpen } from '@auk/core';

/** A key of the bench: Alt and its number, or F6, does what the code does. */
export interface BenchKey {
  key: string;
  name: string;
  scans: string;
  by?: ScanIn['by'];
}

/** What whoever is at the bench may do, and whether it has a scale. */
export interface BenchMay {
  all: boolean;
  byHand: boolean;
  scale: boolean;
  change: boolean;
}

/** The keys that do something now. Each has its number always, so that hands learn them. */
export function keysOf(state: PackState, may: BenchMay): BenchKey[] {
  const asked = openNotes(state).length > 0 || state.asking !== null;
  const at = state.lines[lineAtHand(state)];
  const open = at !== undefined && packLineOpen(at) > 0;
  const left = state.lines.some(l => l.optional && packLineOpen(l) > 0);
  const one = at?.product.codes.find(c => c.units === 1)?.code ?? at?.product.sku;
  const keys: (BenchKey | false | undefined)[] = [
    { key: '1', name: 'undo', scans: 'AUK-UNDO' },
    { key: '2', name: state.choices.checkOnly ? 'close' : 'label', scans: 'AUK-LABEL' },
    { key: '3', name: 'set aside', scans: 'AUK-ASIDE' },
    asked && { key: '4', name: 'yes', scans: 'AUK-YES' },
    { key: '5', name: 'next box', scans: 'AUK-NEXTBOX' },
    left && { key: '6', name: 'leave out', scans: 'AUK-WITHOUT' },
    may.all && open && { key: '7', name: 'all the rest', scans: 'AUK-ALL' },
    may.byHand && open && one !== undefined && { key: '8', name: 'press one', scans: one, by: 'pressed' },
    { key: '9', name: 'photo', scans: 'AUK-PHOTO' },
    may.change && { key: 'F6', name: 'change', scans: 'AUK-CHANGE' },
    may.scale && { key: '0', name: 'weigh', scans: 'AUK-WEIGH' },
  ];
  return keys.filter(k => typeof k === 'object');
}
