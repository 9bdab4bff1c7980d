import type { OrderRow, Page } from '@auk/contract';
import { count, formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { get, post } from '../api.js';
import { clock, day } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import { StageMark } from '../parts/stage.js';
import { InsideOrder } from './InsideOrder.js';
import './orders.css';

const STAGES: [value: string, words: string][] = [
  ['Stopped,Short,Parked', 'wait for a person'],
  ['open', 'have not departed'],
  ['Clear', 'are Clear'],
  ['Stopped', 'are Stopped'],
  ['Short', 'are Short'],
  ['Parked', 'are Parked'],
  ['Listed', 'are Listed'],
  ['Picked', 'are Picked'],
  ['Packed', 'are Packed'],
  ['Labelled', 'are Labelled'],
  ['Departed', 'are Departed'],
  ['Cancelled', 'are Cancelled'],
  ['all', 'are in any stage'],
];
type Counted = Page<OrderRow> & { count: number };

/** The order list: its filter is a sentence, its address holds the filter. Clear orders can be chosen for a pick list. */
export default function OrdersPage({ departed }: { departed?: boolean }) {
  const [params, setParams] = useSearchParams();
  const asked = new URLSearchParams(params);
  if (departed && !asked.has('stage')) asked.set('stage', 'Departed');
  const orders = useInfiniteQuery({
    queryKey: ['orders', asked.toString()],
    queryFn: ({ pageParam }) => get<Counted>(`orders?${asked}${pageParam ? `&after=${pageParam}` : ''}`),
    initialPageParam: '',
    getNextPageParam: (last: Counted) => last.next,
  });
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [open, setOpen] = useState<string | null>(null);
  const rows = orders.data?.pages.flatMap(p => p.rows) ?? [];
  const set = (key: string, value: string) =>
    setParams(
      before => {
        const next = new URLSearchParams(before);
        if (value === '') next.delete(key);
        else next.set(key, value);
        return next;
      },
      { replace: true },
    );
  const toggle = (id: string) =>
    setChosen(before => {
      const next = new Set(before);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const clear = rows.filter(r => r.stage === 'Clear');
  const stage = asked.get('stage') ?? 'open';
  return (
    <>
      <div className="headline">
        <Sentence total={orders.data?.pages[0]?.count} asked={asked} set={set} />
        <div className="row" style={{ gap: 8, marginLeft: 'auto' }}>
          <Button component={Link} to="/orders/import" variant="outlined">
            Bring in
          </Button>
          {stage === 'Clear' ? (
            <MakeList chosen={[...chosen]} made={() => setChosen(new Set())} />
          ) : (
            <Button variant="outlined" onClick={() => set('stage', 'Clear')}>
              Plan pick list
            </Button>
          )}
        </div>
      </div>
      <ProblemNote error={orders.error} />
      {stage === 'Clear' && clear.length > 0 && (
        <p className="quiet" style={{ marginBottom: 8 }}>
          <Button size="small" onClick={() => setChosen(new Set(clear.slice(0, 12).map(r => r.id)))}>
            Choose the first 12
          </Button>
          <Button size="small" onClick={() => setChosen(new Set())}>
            Choose none
          </Button>{' '}
          {count(chosen.size, 'order')} chosen; each gets a tote of its own.
        </p>
      )}
      {rows.length > 0 && (
        <table className="list">
          <thead>
            <tr>
              <th>
                <span className="visually-hidden">{stage === 'Clear' ? 'Chosen' : 'Starred'}</span>
              </th>
              <th>Order</th>
              <th>Buyer</th>
              <th>What</th>
              <th>Stage</th>
              <th>Leaves with</th>
              <th>Promised</th>
              <th className="num">Total</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(r => (
              <Fragment key={r.id}>
                <Row
                  row={r}
                  choosing={stage === 'Clear'}
                  chosen={chosen.has(r.id)}
                  toggle={() => toggle(r.id)}
                  open={open === r.id}
                  setOpen={o => setOpen(o ? r.id : null)}
                />
                {open === r.id && (
                  <tr>
                    <td colSpan={8} style={{ padding: 0 }}>
                      <InsideOrder id={r.id} />
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </tbody>
        </table>
      )}
      {orders.isSuccess && rows.length === 0 && (
        <p className="empty">
          No order is like this. Orders come in from files under “Bring in”; change the sentence above to see
          others.
        </p>
      )}
      {orders.hasNextPage && (
        <Button onClick={() => void orders.fetchNextPage()} sx={{ mt: 2 }}>
          Show more
        </Button>
      )}
    </>
  );
}

function Sentence({
  total,
  asked,
  set,
}: {
  total: number | undefined;
  asked: URLSearchParams;
  set: (key: string, value: string) => void;
}) {
  const channels = useQuery({
    queryKey: ['channels'],
    queryFn: () => get<{ code: string; name: string }[]>('channels'),
  });
  return (
    <p className="sentence">
      <b className="n">{total ?? '…'}</b> {total === 1 ? 'order that' : 'orders that'}{' '}
      <select
        aria-label="Stage"
        value={asked.get('stage') ?? 'open'}
        onChange={e => set('stage', e.target.value === 'open' ? '' : e.target.value)}
      >
        {STAGES.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      , from{' '}
      <select
        aria-label="Channel"
        value={asked.get('channel') ?? ''}
        onChange={e => set('channel', e.target.value)}
      >
        <option value="">every channel</option>
        {channels.data?.map(c => (
          <option key={c.code} value={c.code}>
            {c.name}
          </option>
        ))}
      </select>
      , with{' '}
      <input
        aria-label="Number, buyer or mail"
        placeholder="any name"
        defaultValue={asked.get('words') ?? ''}
        onKeyDown={e => e.key === 'Enter' && set('words', e.currentTarget.value)}
        onBlur={e => set('words', e.currentTarget.value)}
      />
      {asked.get('reason') && (
        <>
          {' '}
          stopped by <b>{asked.get('reason')!.replaceAll('-', ' ')}</b>{' '}
          <button type="button" className="star" aria-label="Any reason" onClick={() => set('reason', '')}>
            ×
          </button>
        </>
      )}
    </p>
  );
}

function Row({
  row: r,
  choosing,
  chosen,
  toggle,
  open,
  setOpen,
}: {
  row: OrderRow;
  choosing: boolean;
  chosen: boolean;
  toggle: () => void;
  open: boolean;
  setOpen: (open: boolean) => void;
}) {
  const client = useQueryClient();
  const star = useMutation({
    mutationFn: () => post(`orders/${r.id}/star`, { starred: !r.starred }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['orders'] }),
  });
  return (
    <tr className={chosen || open ? 'opens chosen' : 'opens'}>
      <td>
        {choosing ? (
          <input
            type="checkbox"
            aria-label={`Choose ${r.channelNumber}`}
            checked={chosen}
            onChange={toggle}
            style={{ width: 18, height: 18, margin: 6 }}
          />
        ) : (
          <button
            type="button"
            className="star"
            aria-label={r.starred ? `Unstar ${r.channelNumber}` : `Star ${r.channelNumber}`}
            onClick={() => star.mutate()}
          >
            {r.starred ? '★' : '☆'}
          </button>
        )}
      </td>
      <td>
        <Link className="code" style={{ color: 'inherit' }} to={`/orders/${r.id}`}>
          {r.channelNumber}
        </Link>
        <div className="quiet">{r.channel}</div>
      </td>
      <td>
        {r.buyer}
        <div className="quiet">{r.town}</div>
      </td>
      <td style={{ maxWidth: 300 }}>
        <button
          type="button"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          className="cut"
          style={{
            border: 0,
            background: 'none',
            font: 'inherit',
            color: 'inherit',
            padding: 0,
            cursor: 'pointer',
            display: 'block',
            maxWidth: '100%',
            textAlign: 'left',
          }}
        >
          {r.what}
        </button>
        <div className="quiet">
          {count(r.lines, 'line')}, {count(r.units, 'unit')}
        </div>
      </td>
      <td style={{ maxWidth: 230 }}>
        <StageMark stage={r.stage} />
        <div className="quiet two">{r.reason}</div>
      </td>
      <td>
        {r.leavesWith ? `${r.leavesWith.carrier.split(' ')[0]} ${clock(r.leavesWith.cutOff)}` : ''}
        <div className="quiet">{r.leavesWith ? day(r.leavesWith.cutOff) : ''}</div>
      </td>
      <td>{day(r.promised)}</td>
      <td className="num">{formatMoney(r.paidMinor, r.currency)}</td>
    </tr>
  );
}

function MakeList({ chosen, made }: { chosen: string[]; made: () => void }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: () => post<{ no: string }>('picking/lists', { orderIds: chosen }),
    onSuccess: ({ no }) => {
      made();
      void client.invalidateQueries();
      void navigate(`/pick/${no}`);
    },
  });
  return (
    <div>
      <Button
        variant="contained"
        disabled={chosen.length === 0 || make.isPending}
        onClick={() => make.mutate()}
      >
        Make pick list of {chosen.length}
      </Button>
      <ProblemNote error={make.error} />
    </div>
  );
}
