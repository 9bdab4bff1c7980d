import { type PackState, packDone } from '@auk/core';
import { type Said } from '../scans/useScanSession.js';
import { type LabelDesk } from './useLabelDesk.js';

/** What the bottom says: the label's state once the parcel is closed, else the answer to the last scan. */
export function answerOf(
  last: Said | null,
  state: PackState,
  desk: LabelDesk,
): Pick<Said, 'says' | 'next' | 'tone'> & { times?: number } {
  if (desk.problem) return { says: desk.problem.says, next: desk.problem.cure, tone: 'wrong' };
  const label = desk.label;
  if (label?.state === 'bought')
    return {
      says: `Label bought, ${label.service}.`,
      next: 'Stick it on and put the parcel with its departure. Then scan the next slip.',
      tone: 'complete',
    };
  if (label?.state === 'refused')
    return {
      says: 'The label was refused.',
      next: `${label.why ?? ''} Choose another service.`,
      tone: 'wrong',
    };
  if (label)
    return {
      says: 'The carrier has not answered.',
      next: `${label.why ?? ''} Auk asks again; nothing is bought twice. Set the parcel aside.`,
      tone: 'info',
    };
  if (state.closed)
    return {
      says: desk.busy ? 'Buying the label …' : 'Choose the service.',
      next: 'Alt 1 or the “label” code takes the first.',
      tone: 'complete',
    };
  return (
    last ?? {
      says: packDone(state) ? 'Everything is in.' : 'Scan the pieces.',
      next: 'Each piece is checked as it goes in.',
      tone: 'info',
    }
  );
}
