import type { BenchView } from '@auk/contract';
import {
  askingHint,
  openNotes,
  type PackState,
  packClosed,
  packDone,
  packHint,
  questionOf,
  readFirst,
} from '@auk/core';
import { type Said } from '../scans/useScanSession.js';
import { type LabelDesk } from './useLabelDesk.js';

/** Something beside the scans that could not be done, and what helps. It stands until the next scan. */
export interface Trouble {
  says: string;
  cure: string;
  /** Wrong when it is not said. */
  tone?: 'attention' | 'right';
}

/** What the bottom says: the label's state once the parcel is closed, else the answer to the last scan. */
export function answerOf(
  last: Said | null,
  state: PackState,
  desk: LabelDesk,
  offline: boolean,
  trouble: Trouble | null,
  inbound: BenchView['inbound'],
): Pick<Said, 'says' | 'next' | 'tone'> & { times?: number } {
  if (packClosed(state) && offline && !inbound)
    return {
      says: 'Packed. The label waits.',
      next: 'There is no network. What you scanned is kept; set the parcel aside, its label is bought when it is back.',
      tone: 'attention',
    };
  const problem = trouble ?? desk.problem;
  if (problem) return { says: problem.says, next: problem.cure, tone: trouble?.tone ?? 'wrong' };
  const label = desk.label;
  if (label?.state === 'bought' && desk.misfit)
    return {
      says: desk.misfit,
      next: 'Scan VOID and YES to give that label back, then choose the service anew.',
      tone: 'wrong',
    };
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
  if (packClosed(state) && inbound)
    return {
      says: `All boxes of ${inbound.name} for ${inbound.center} are packed.`,
      next: 'Put them aside; their labels come when it is booked. Then scan the next slip.',
      tone: 'complete',
    };
  if (packClosed(state) && state.choices.checkOnly)
    return { says: 'Checked and closed.', next: 'Scan the next slip or tote.', tone: 'complete' };
  if (packClosed(state))
    return {
      says: desk.busy ? 'Buying the label …' : 'Choose the service.',
      next: `${desk.held ? `${desk.held} ` : ''}Alt 1 or the “label” code takes the first.`,
      tone: 'complete',
    };
  if (last) return last;
  const note = openNotes(state)[0];
  if (note) return { says: `Read this: ${note.text}`, next: readFirst(note), tone: 'attention' };
  if (state.asking)
    return {
      says: questionOf(state, state.asking),
      next: askingHint(state, state.asking),
      tone: 'attention',
    };
  return {
    says: packDone(state) ? 'Everything is in.' : 'Scan the pieces.',
    next: packHint(state),
    tone: 'info',
  };
}
