import { can, MadeId, OrderPageAnswer, OrderRow, Person } from '@auk/contract';
import Button from '@mui/material/Button';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { get, post, send } from '../api.js';
import { ExportLinks } from '../imports/ExportLinks.js';
import { ProblemNote } from '../parts/problem.js';
import { addressNow } from '../parts/useQuestion.js';
import { BulkBar } from './BulkBar.js';
import { type ChosenColumns, ColumnsMenu } from './ColumnsMenu.js';
import { COLUMN_ORDER, HIDDEN } from './columns.js';
import { KeptQuestions } from './KeptQuestions.js';
import { OrderTable } from './OrderTable.js';
import { questionOf } from './question.js';
import { Sentence } from './Sentence.js';
import { usePreference } from './usePreference.js';
import './orders.css';

const LIST = 'auk.orders.list';

/** The question of the list a person was in last; previous and next on an order's page follow it. */
export const lastQuestion = (): string => sessionStorage.getItem(LIST) ?? '';

/** The order list: its filter is a sentence, its address holds the filter. */
export default function OrdersPage({ me, departed }: { me: Person; departed?: boolean }) {
  const [params, setParams] = useSearchParams();
  const asked = new URLSearchParams(params);
  if (departed && !asked.has('stage')) asked.set('stage', 'Departed');
  const question = questionOf(asked);
  sessionStorage.setItem(LIST, question);
  const orders = useInfiniteQuery({
    queryKey: ['orders', question],
    queryFn: ({ pageParam }) =>
      get(OrderPageAnswer, `orders?${question}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ''}`),
    initialPageParam: '',
    getNextPageParam: (last: OrderPageAnswer) => last.next,
  });
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [kept, setColumns] = usePreference<ChosenColumns>('order-columns', {
    order: COLUMN_ORDER,
    hidden: HIDDEN,
  });
  const columns = { ...kept, order: [...kept.order, ...COLUMN_ORDER.filter(c => !kept.order.includes(c))] };
  const client = useQueryClient();
  const navigate = useNavigate();
  const star = useMutation({
    mutationFn: (r: OrderRow) => send(`orders/${r.id}/star`, { starred: !r.starred }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['orders'] }),
  });
  const create = useMutation({
    mutationFn: () => post(MadeId, 'orders', {}),
    onSuccess: ({ id }) => navigate(`/orders/${id}`),
  });
  const rows = orders.data?.pages.flatMap(p => p.rows) ?? [];
  const more = useCallback(() => void orders.fetchNextPage({ cancelRefetch: false }), [orders.fetchNextPage]);
  const ask = (to: string) => {
    setChosen(new Set());
    setParams(new URLSearchParams(to), { replace: true });
  };
  const set = (key: string, value: string) => {
    const next = addressNow();
    if (departed && !next.has('stage')) next.set('stage', 'Departed');
    if (value === '') next.delete(key);
    else next.set(key, value);
    ask(questionOf(next));
  };
  const desk = can(me, 'orders.change');
  const stage = asked.get('stage');
  const clear = rows.filter(r => r.stage === 'Clear');
  return (
    <>
      <div className="headline">
        <Sentence count={orders.data?.pages[0]?.count} asked={asked} set={set} />
        {desk && (
          <div className="row" style={{ gap: 8, marginLeft: 'auto' }}>
            <Button component={Link} to="/bring-in" variant="outlined">
              Bring in
            </Button>
            <Button variant="outlined" disabled={create.isPending} onClick={() => create.mutate()}>
              New order
            </Button>
            {stage !== 'Clear' && (
              <Button variant="contained" onClick={() => set('stage', 'Clear')}>
                Plan pick list
              </Button>
            )}
          </div>
        )}
      </div>
      <KeptQuestions asked={asked} ask={ask} set={set} />
      <ProblemNote error={orders.error ?? star.error ?? create.error} />
      <div className="tools">
        {stage === 'Clear' && clear.length > 0 && (
          <Button size="small" onClick={() => setChosen(new Set(clear.slice(0, 12).map(r => r.id)))}>
            Choose the first 12
          </Button>
        )}
        <ColumnsMenu columns={columns} onChange={setColumns} />
        <ExportLinks what="orders" question={question} />
        <span className="quiet keys">
          ↑ ↓ walk · Enter look inside · Space choose · F4 whole order · F8 star
        </span>
      </div>
      {desk && <BulkBar chosen={chosen} clear={() => setChosen(new Set())} canList={stage === 'Clear'} />}
      {rows.length > 0 && (
        <OrderTable
          rows={rows}
          columns={columns}
          chosen={chosen}
          choose={setChosen}
          star={r => star.mutate(r)}
          more={orders.hasNextPage && !orders.isFetchingNextPage ? more : null}
        />
      )}
      {orders.isSuccess && rows.length === 0 && (
        <p className="empty">
          No order is like this. Orders come in from channels (Setup) and from files under “Bring in”; change
          the sentence above to see others.
        </p>
      )}
    </>
  );
}
