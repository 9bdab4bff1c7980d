import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';

interface Props {
  /** What is usual where it is asked. */
  reason?: string;
  busy: boolean;
  error: unknown;
  onLeave: () => void;
  onCancel: (reason: string) => void;
}

/** Asks why an order is cancelled, and says what follows. What is typed lives here, so that a scan into the field is not held up by the page. */
export function AskCancel({ reason = '', busy, error, onLeave, onCancel }: Props) {
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
      <p>It comes off its pick list. What is picked already is laid down, to be put back.</p>
      <Line label="Why" autoFocus value={text} onType={setText} />
    </Ask>
  );
}
