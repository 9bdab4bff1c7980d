import { OrderView } from '@auk/contract';
import { formatMoney } from '@auk/core';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';

interface Props {
  order: OrderView;
  /** What is usual where it is asked. */
  reason?: string;
  busy: boolean;
  error: unknown;
  onLeave: () => void;
  onCancel: (reason: string) => void;
}

/** Asks why an order is cancelled, and says what follows. What is typed lives here, so that a scan into the field is not held up by the page. */
export function AskCancel({ order, reason = '', busy, error, onLeave, onCancel }: Props) {
  const [text, setText] = useState(reason);
  return (
    <Ask
      title="Cancel the order"
      act="Cancel order"
      danger
      ready={text.trim() !== ''}
      busy={busy}
      error={error}
      onLeave={onLeave}
      onAct={() => onCancel(text)}
    >
      <p>{[WHAT_FOLLOWS[order.row.stage] ?? FREE, toRefund(order)].filter(Boolean).join(' ')}</p>
      <Line label="Why" autoFocus value={text} onType={setText} />
    </Ask>
  );
}

const FREE = 'What is reserved for it goes to other orders at once.';
/** What becomes of the goods, by the stage that the order is in. */
const WHAT_FOLLOWS: Partial<Record<string, string>> = {
  Listed: `It comes off its pick list. ${FREE}`,
  Picked: 'What is picked for it is laid down at staging, to be put back.',
  Elsewhere: 'Who sends it must be told.',
};

/** What the buyer has paid does not come back by itself. */
const toRefund = ({ money, row }: OrderView): string =>
  money.paidMinor > 0
    ? `${formatMoney(money.paidMinor, row.currency)} was paid: give it back where it was paid, then choose “refunded” under Money.`
    : '';
