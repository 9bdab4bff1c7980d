import type { LabelView } from '@auk/contract';
import { formatMoney } from '@auk/core';
import { useMutation } from '@tanstack/react-query';
import { Ask } from '../../parts/ask.js';
import { ProblemNote } from '../../parts/problem.js';
import { useScanner } from '../../scans/useScanner.js';
import { voidLabel } from '../api.js';

interface Props {
  parcelNo: string;
  label: LabelView;
  /** Why it is not right for the parcel, where that is known. */
  why: string | null;
  done: () => void;
  leave: () => void;
}

/** Asks once before a bought label is given back; YES does it, UNDO leaves it. */
export default function VoidLabel({ parcelNo, label, why, done, leave }: Props) {
  const giveBack = useMutation({ mutationFn: () => voidLabel(parcelNo), onSuccess: done });
  useScanner(text => {
    const code = text.trim().toUpperCase();
    if (code === 'AUK-YES' && !giveBack.isPending) giveBack.mutate();
    if (code === 'AUK-UNDO') leave();
  });
  return (
    <Ask
      title={`Void the label of ${parcelNo}?`}
      act="Void it"
      danger
      busy={giveBack.isPending}
      onAct={() => giveBack.mutate()}
      onLeave={leave}
    >
      {why && (
        <p>
          <b>▲ {why}</b>
        </p>
      )}
      <p>
        {label.carrierName} is asked to take {label.tracking} back and to return{' '}
        {formatMoney(label.minor, label.currency)}. Take the old label off the parcel.
      </p>
      <p>
        {why
          ? 'Scan YES, then choose its service anew; or UNDO to leave it as it is.'
          : 'Scan YES, or UNDO to leave it as it is.'}
      </p>
      <ProblemNote error={giveBack.error} />
    </Ask>
  );
}
