import { can, OrderRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { changed } from '../../asked.js';
import { inTab } from '../../kept.js';
import { ExportLinks } from '../../parts/ExportLinks.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useChosen } from '../../parts/useMany.js';
import { useMore } from '../../parts/useMore.js';
import { addressNow } from '../../parts/useQuestion.js';
import { useTitle } from '../../parts/useTitle.js';
import { useMe } from '../../people/useMe.js';
import { makeOrder, ordersQuery, starOrder } from '../api.js';
import { BulkBar } from '../parts/BulkBar.js';
import { orderColumns } from '../parts/columns.js';
import { InsideOrder } from '../parts/InsideOrder.js';
import { KeptQuestions } from '../parts/KeptQuestions.js';
import { Sentence } from '../parts/Sentence.js';
import { questionOf } from '../question.js';

const LIST = 'auk.orders.list';

/** The question of the list a person was in last; previous and next on an order's page follow it. */
export const lastQuestion = (): string => inTab.get(LIST) ?? '';

/** What the list is asked, as it stands in the address; asking something else chooses none. */
function useAsked(departed: boolean, chooseNone: () => void) {
  const [params, setParams] = useSearchParams();
  const asked = new URLSearchParams(params);
  if (departed && !asked.has('stage')) asked.set('stage', 'Departed');
  const question = questionOf(asked);
  inTab.set(LIST, question);
  const ask = (to: string) => {
    chooseNone();
    setParams(new URLSearchParams(to), { replace: true });
  };
  const set = (key: string, value: string) => {
    const next = addressNow();
    if (departed && !next.has('stage')) next.set('stage', 'Departed');
    if (value === '') next.delete(key);
    else next.set(key, value);
    ask(questionOf(next));
  };
  return { asked, question, ask, set };
}

/** The order list: its filter is a sentence, its address holds the filter. */
export default function OrdersPage({ departed }: { departed?: boolean }) {
  const me = useMe();
  const [chosen, choose, chooseNone] = useChosen();
  const { asked, question, ask, set } = useAsked(departed === true, chooseNone);
  useTitle(departed ? 'Departed' : 'Orders');
  const orders = useInfiniteQuery(ordersQuery(question));
  const client = useQueryClient();
  const navigate = useNavigate();
  const star = useMutation({
    mutationFn: (r: OrderRow) => starOrder(r.id, !r.starred),
    onSuccess: () => changed(client, 'orders'),
  });
  const create = useMutation({
    mutationFn: makeOrder,
    onSuccess: ({ id }) => navigate(`/orders/${id}`),
  });
  const more = useMore(orders);
  const rows = useMemo(() => orders.data?.pages.flatMap(p => p.rows) ?? [], [orders.data]);
  const columns = useMemo(() => orderColumns(star.mutate), [star.mutate]);
  const desk = can(me, 'orders.change');
  const stage = asked.get('stage');
  const clear = rows.filter(r => r.stage === 'Clear');
  return (
    <>
      <div className={pageCss.head}>
        <Sentence count={orders.data?.pages[0]?.count} asked={asked} set={set} />
        {desk && (
          <div className={pageCss.row} style={{ gap: 8, marginLeft: 'auto' }}>
            <Button component={Link} to="/bring-in" variant="outlined" color="secondary">
              Bring in
            </Button>
            <Button
              variant="outlined"
              color="secondary"
              disabled={create.isPending}
              onClick={() => create.mutate()}
            >
              New order
            </Button>
            <Button variant="contained" component={Link} to="/pick/plan">
              Plan pick lists
            </Button>
          </div>
        )}
      </div>
      <KeptQuestions asked={asked} ask={ask} set={set} />
      <ProblemNote error={orders.error ?? star.error ?? create.error} />
      {desk && <BulkBar chosen={chosen} clear={chooseNone} canList={stage === 'Clear'} />}
      <DataTable
        name="order"
        label="Orders"
        rows={rows}
        idOf={r => r.id}
        columns={columns}
        chosen={{ ids: chosen, set: choose, nameOf: r => r.channelNumber }}
        inside={r => <InsideOrder id={r.id} />}
        to={r => `/orders/${r.id}`}
        onKey={(key, r) => {
          if (key !== 'F8') return false;
          star.mutate(r);
          return true;
        }}
        more={more}
        tools={
          <>
            {stage === 'Clear' && clear.length > 0 && (
              <Button size="small" onClick={() => choose(new Set(clear.slice(0, 12).map(r => r.id)))}>
                Choose the first 12
              </Button>
            )}
            <ExportLinks what="orders" question={question} />
            <span className={textCss.quiet}>
              ↑ ↓ walk · Enter look inside · Space choose · F4 whole order · F8 star
            </span>
          </>
        }
        empty={
          orders.isSuccess &&
          'No order is like this. Orders come in from channels (Setup) and from files under “Bring in”; change the sentence above to see others.'
        }
      />
    </>
  );
}
