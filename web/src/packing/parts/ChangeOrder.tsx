import type { OrderView } from '@auk/contract';
import { canonicalCode, formatMoney, type PackState } from '@auk/core';
import Add from '@mui/icons-material/Add';
import Remove from '@mui/icons-material/Remove';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { wordsOf } from '../../api.js';
import { orderQuery } from '../../parts/api.js';
import { Ask } from '../../parts/ask.js';
import textCss from '../../parts/text.module.css';
import { AnswerBar } from '../../scans/AnswerBar.js';
import { playTone } from '../../scans/sounds.js';
import { useScanner } from '../../scans/useScanner.js';
import { productByCode } from '../api.js';
import { editOf, instead, type LineWish, moreOf, oneFewer, oneMore, wishesOf } from '../lineWishes.js';
import css from '../packing.module.css';

interface Props {
  orderId: string;
  /** The order at the bench: its pieces are known by their codes without asking. */
  state: PackState;
  save: (version: number, lines: ReturnType<typeof editOf>) => void;
  leave: () => void;
}

/** Changes what the order wants while it is packed, by scanner or keys. Until it is saved nothing has changed. */
export default function ChangeOrder({ orderId, ...rest }: Props) {
  const order = useQuery({ ...orderQuery(orderId), refetchOnMount: 'always' });
  if (order.data && order.isFetchedAfterMount) return <Changing order={order.data} {...rest} />;
  return (
    <Ask title={TITLE} act={ACT} ready={false} onAct={() => {}} onLeave={rest.leave}>
      <p>{order.error ? wordsOf(order.error).says : 'Reading the order …'}</p>
    </Ask>
  );
}

const TITLE = 'Change what the order wants';
const ACT = 'Change it';
/** What the next scan does: one more, one fewer, or all of a line in what is scanned. */
type Mode = 'more' | 'fewer' | { instead: number };
type Said = Parameters<typeof AnswerBar>[0]['answer'];

const nextOf = (mode: Mode, wishes: readonly LineWish[]): string => {
  if (mode === 'fewer') return 'Scan what is wanted once less.';
  if (mode !== 'more') return `Scan what goes instead of ${wishes[mode.instead]!.name}.`;
  return 'Scan or type what is added. WITHOUT makes the next scan one fewer, YES saves, UNDO leaves.';
};

function Changing({ order, state, save, leave }: Omit<Props, 'orderId'> & { order: OrderView }) {
  const [wishes, setWishes] = useState(() => wishesOf(order));
  const [mode, setMode] = useState<Mode>('more');
  const [said, setSaid] = useState<Pick<Said, 'says' | 'tone'> | null>(null);
  const edit = editOf(wishes);
  const say = (tone: Said['tone'], says: string) => {
    setSaid({ tone, says });
    playTone(tone);
  };
  const take = async (text: string) => {
    const code = text.trim().toUpperCase();
    if (code === 'AUK-UNDO') return leave();
    if (code === 'AUK-YES') return edit.length > 0 && save(order.version, edit);
    if (code === 'AUK-WITHOUT') return setMode('fewer');
    try {
      const product = known(state, text) ?? (await productByCode(text));
      if (!product) return say('wrong', `No product has the code ${text.slice(0, 40)}.`);
      if (mode === 'fewer') {
        if (!wishes.some(w => w.sku === product.sku && w.quantity > 0))
          return say('wrong', `No line of this order is ${product.name}.`);
        setWishes(now => oneFewer(now, product.sku) ?? now);
      } else
        setWishes(now => (mode === 'more' ? oneMore(now, product) : instead(now, mode.instead, product)));
      say('right', `${product.name}: one ${mode === 'fewer' ? 'fewer' : 'more'}.`);
      setMode('more');
    } catch (error) {
      say('wrong', wordsOf(error).says);
    }
  };
  const [typed, setTyped] = useState('');
  useScanner(text => void take(text), { typed: true, onTyping: setTyped });
  const { currency } = order.row;
  return (
    <Ask
      title={TITLE}
      act={ACT}
      wide
      ready={edit.length > 0}
      onAct={() => save(order.version, edit)}
      onLeave={leave}
    >
      <ul className={css.wishes} aria-label="Lines">
        {wishes.map((w, i) => (
          <li key={`${w.key} ${w.sku}`}>
            <IconButton aria-label={`One ${w.name} fewer`} onClick={() => setWishes(moreOf(wishes, i, -1))}>
              <Remove />
            </IconButton>
            <b>{w.quantity}</b>
            <IconButton aria-label={`One ${w.name} more`} onClick={() => setWishes(moreOf(wishes, i, 1))}>
              <Add />
            </IconButton>
            <span>
              {w.name}
              <small className={textCss.code}>{w.sku}</small>
            </span>
            <span className={textCss.quiet}>{changeOf(w)}</span>
            <span className={textCss.quiet}>
              {w.priceMinor === null ? 'at its price' : `${formatMoney(w.priceMinor, currency)} each`}
            </span>
            <Button
              disabled={w.quantity === 0}
              onClick={() => setMode({ instead: i })}
              variant={typeof mode === 'object' && mode.instead === i ? 'contained' : 'text'}
            >
              another instead
            </Button>
          </li>
        ))}
      </ul>
      <AnswerBar
        where="box"
        typed={typed}
        answer={{
          says: said?.says ?? `${order.row.no}: what is in stays in.`,
          tone: said?.tone ?? 'info',
          next: nextOf(mode, wishes),
        }}
      />
    </Ask>
  );
}

/** A product of the order at the bench by one of its codes. */
function known(state: PackState, text: string): { sku: string; name: string } | null {
  const code = canonicalCode(text);
  const line = state.lines.find(l => l.bundle === null && l.product.codes.some(c => c.code === code));
  return line ? { sku: line.product.sku, name: line.product.name } : null;
}

function changeOf({ key, before, quantity }: LineWish): string {
  if (key === null) return 'new';
  if (quantity === before) return '';
  return quantity === 0 ? `removed, had ${before}` : `had ${before}`;
}
