import { can, MadeId, Neighbours, OrderView, Person, ScanAnswer } from '@auk/contract';
import { type Answer, count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { v7 } from 'uuid';
import { get, post, wordsOf } from '../api.js';
import { ProblemNote } from '../parts/problem.js';
import { StageMark } from '../parts/stage.js';
import { playTone } from '../scans/sounds.js';
import { useScanner } from '../scans/useScanner.js';
import { LinesPanel } from './LinesPanel.js';
import { OrderActs } from './OrderActs.js';
import { lastQuestion } from './OrdersPage.js';
import { AddressPanel, MoneyPanel, WayPanel } from './SidePanels.js';
import { StopNote } from './StopCure.js';
import { HistoryPanel, NotesPanel, RelatedOrders } from './StoryPanels.js';
import { useOrderEdit } from './useOrderEdit.js';
import './orders.css';

/** One order's whole story on one page; everything on it is changed in place. */
export default function OrderPage({ me }: { me: Person }) {
  const { id } = useParams();
  const order = useQuery({ queryKey: ['order', id], queryFn: () => get(OrderView, `orders/${id}`) });
  if (!order.data) return <ProblemNote error={order.error} />;
  return <Order key={id} order={order.data} me={me} />;
}

function Order({ order: o, me }: { order: OrderView; me: Person }) {
  const desk = can(me, 'orders.change');
  const editable = desk && !['Departed', 'Cancelled'].includes(o.row.stage);
  const edit = useOrderEdit(o);
  const [splitting, setSplitting] = useState<Record<string, number> | null>(null);
  return (
    <div className="orderpage">
      <div className="headline">
        <div className="grow">
          <h1>
            <span className="code">{o.row.channelNumber}</span> · {o.row.buyer || 'no buyer yet'}
          </h1>
          <p>
            <StageMark stage={o.row.stage} />{' '}
            <span className="quiet">
              {[
                o.draft ? 'a draft: neither checked nor reserved' : o.stops.length > 0 ? null : o.row.reason,
                o.row.channel,
              ]
                .filter(Boolean)
                .join(' · ')}{' '}
              · <span className="code">{o.row.no}</span>
            </span>
          </p>
        </div>
        <Beside id={o.row.id} />
        <OrderActs order={o} can={editable} onSplit={() => setSplitting({})} />
      </div>
      {edit.notes}
      <RelatedOrders order={o} can={editable} />
      {o.stops.map(s => (
        <StopNote key={s.code + s.subject + s.says} stop={s} order={o} />
      ))}
      {o.undoes && editable && (
        <p className="undoes">▣ Changing units or address: {o.undoes.replace('This undoes work: ', '')}</p>
      )}
      {o.draft && editable && <DraftScans id={o.row.id} />}
      <div className="three" key={edit.epoch}>
        <div>
          <LinesPanel
            order={o}
            save={edit.save}
            can={editable}
            split={{ on: splitting !== null, units: splitting ?? {}, set: setSplitting }}
          />
          {splitting && <SplitBar order={o} units={splitting} leave={() => setSplitting(null)} />}
          <NotesPanel order={o} can={desk} />
          <HistoryPanel order={o} />
        </div>
        <AddressPanel order={o} save={edit.save} can={editable} />
        <div>
          <MoneyPanel order={o} save={edit.save} can={desk} />
          <WayPanel order={o} save={edit.save} can={editable} />
        </div>
      </div>
    </div>
  );
}

/** The order before and the order after, in the list the person came from; also by Alt and an arrow. */
function Beside({ id }: { id: string }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const question = lastQuestion();
  const asked = useMemo(
    () => ({
      queryKey: ['orders', 'beside', id, question],
      queryFn: () => get(Neighbours, `orders/${id}/beside?${question}`),
    }),
    [id, question],
  );
  const beside = useQuery(asked);
  useEffect(() => {
    const keys = async (e: KeyboardEvent) => {
      if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
      e.preventDefault();
      const { before, after } = await client.ensureQueryData(asked);
      const to = e.key === 'ArrowUp' ? before : after;
      if (to) void navigate(`/orders/${to}`);
    };
    const listen = (e: KeyboardEvent) => void keys(e);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [asked, client, navigate]);
  return (
    <nav className="beside" aria-label="Neighbours in the list">
      <Link to={`/orders?${question}`}>the list</Link>
      {beside.data?.before ? (
        <Link to={`/orders/${beside.data.before}`} title="Alt and arrow up">
          ↑ previous
        </Link>
      ) : (
        <span className="quiet">↑ previous</span>
      )}
      {beside.data?.after ? (
        <Link to={`/orders/${beside.data.after}`} title="Alt and arrow down">
          ↓ next
        </Link>
      ) : (
        <span className="quiet">↓ next</span>
      )}
    </nav>
  );
}

/** Scans on a draft add lines: each scan is sent until it is answered, and counts once. */
function DraftScans({ id }: { id: string }) {
  const client = useQueryClient();
  const [answer, setAnswer] = useState<Pick<Answer, 'says' | 'next' | 'tone'> | null>(null);
  const send = useMutation({
    mutationFn: (scan: { id: string; text: string }) => post(ScanAnswer, `orders/${id}/scans`, scan),
    retry: 5,
    scope: { id: `draft ${id}` },
    onSuccess: a => {
      playTone(a.tone === 'wrong' ? 'wrong' : 'right');
      setAnswer(a);
      void client.invalidateQueries({ queryKey: ['order', id] });
    },
    onError: e => {
      const { says, cure } = wordsOf(e);
      playTone('wrong');
      setAnswer({ says, next: cure, tone: 'wrong' });
    },
  });
  const { mutate } = send;
  useScanner(useCallback(text => mutate({ id: v7(), text }), [mutate]));
  return (
    <p className={`draftscan ${answer?.tone ?? ''}`} role="status">
      {answer ? (
        <>
          <b>{answer.says}</b> {answer.next}
        </>
      ) : (
        'Scan products: each scan is one more. Or find them by SKU and name below.'
      )}
    </p>
  );
}

function SplitBar({
  order: o,
  units,
  leave,
}: {
  order: OrderView;
  units: Record<string, number>;
  leave: () => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const lines = Object.entries(units)
    .filter(([, n]) => n > 0)
    .map(([key, quantity]) => ({ key, quantity }));
  const split = useMutation({
    mutationFn: () => post(MadeId, `orders/${o.row.id}/split`, { version: o.version, lines }),
    onSuccess: ({ id }) => {
      leave();
      void client.invalidateQueries();
      void navigate(`/orders/${id}`);
    },
  });
  return (
    <div className="row" style={{ gap: 8, margin: '8px 0' }}>
      <Button
        variant="contained"
        disabled={lines.length === 0 || split.isPending}
        onClick={() => split.mutate()}
      >
        Split off{' '}
        {count(
          lines.reduce((n, l) => n + l.quantity, 0),
          'unit',
        )}
      </Button>
      <Button onClick={leave}>Leave it whole</Button>
      <span className="quiet">Shipping, discount and payment go along by their share, to the cent.</span>
      <ProblemNote error={split.error} />
    </div>
  );
}
