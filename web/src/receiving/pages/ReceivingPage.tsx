import { can, PurchaseOrderRow } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { changed } from '../../asked.js';
import { Centers } from '../../elsewhere/parts/Centers.js';
import { Ask } from '../../parts/ask.js';
import { day } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { endPurchase, purchasesQuery } from '../api.js';
import { NewPurchase } from '../parts/NewPurchase.js';
import { Suppliers } from '../parts/Suppliers.js';

/** What suppliers are to send: what is expected when, how much of it came, and which orders wait for it. */
export default function ReceivingPage() {
  const me = useMe();
  const orders = useQuery(purchasesQuery);
  const [making, setMaking] = useState(false);
  const [ending, setEnding] = useState<PurchaseOrderRow | null>(null);
  const client = useQueryClient();
  const navigate = useNavigate();
  const desk = can(me, 'purchases.change');
  const end = useMutation({
    mutationFn: endPurchase,
    onSuccess: async () => {
      setEnding(null);
      await changed(client, 'purchases', 'stock', 'orders');
    },
  });
  const columns = useMemo(
    () => purchaseColumns({ receive: can(me, 'receive'), end: desk ? setEnding : null }),
    [me, desk],
  );
  return (
    <>
      <Head title="Receiving" about="Open an order, or scan its PO- code anywhere, and scan what comes.">
        {desk && (
          <>
            <Button component={Link} to="/bring-in?kind=purchases" variant="outlined" color="secondary">
              Bring in
            </Button>
            <Button variant="outlined" color="secondary" onClick={() => setMaking(true)}>
              New purchase order
            </Button>
          </>
        )}
      </Head>
      <ProblemNote error={orders.error} />
      {making && <NewPurchase leave={() => setMaking(false)} made={() => setMaking(false)} />}
      {ending && (
        <Ask
          title={`Is the rest of ${ending.no} not coming?`}
          act="It is not coming"
          danger
          busy={end.isPending}
          error={end.error}
          onAct={() => end.mutate(ending.no)}
          onLeave={() => setEnding(null)}
        >
          {ending.ordered - ending.received} of {ending.ordered} units are awaited. What came stays.
        </Ask>
      )}
      <DataTable
        name="purchase"
        label="Purchase orders"
        rows={orders.data ?? []}
        idOf={o => o.no}
        columns={columns}
        onKey={(key, o) => {
          if (key !== 'Enter' || o.state !== 'open' || !can(me, 'receive')) return false;
          void navigate(`/receiving/${o.no}`);
          return true;
        }}
        empty={orders.isSuccess && 'No purchase order is here. Type one in, or bring in a file.'}
      />
      <div className={pageCss.three} style={{ marginTop: '2rem' }}>
        <Suppliers can={desk} />
        <Centers can={can(me, 'channels.connect')} />
      </div>
    </>
  );
}

interface Doings {
  receive: boolean;
  end: ((o: PurchaseOrderRow) => void) | null;
}

const purchaseColumns = ({ receive, end }: Doings): Column<PurchaseOrderRow>[] => [
  {
    id: 'order',
    head: 'Order',
    width: 16,
    cell: o => (
      <>
        <b className={textCss.code}>{o.no}</b>
        {o.reference && <div className={textCss.quiet}>{o.reference}</div>}
      </>
    ),
  },
  { id: 'supplier', head: 'Supplier', width: 24, cell: o => o.supplier },
  {
    id: 'expected',
    head: 'Expected',
    width: 14,
    cell: o => (
      <span className={o.late ? textCss.risk : ''}>
        {o.late && '! '}
        {day(o.expected) || <span className={textCss.quiet}>no day told</span>}
        {o.late && <div className={textCss.small}>late</div>}
      </span>
    ),
  },
  {
    id: 'received',
    head: 'Received',
    right: true,
    width: 12,
    cell: o => (
      <>
        <b>{o.received}</b> of {o.ordered}
        <div className={textCss.quiet}>{count(o.lines, 'line')}</div>
      </>
    ),
  },
  {
    id: 'frees',
    head: 'Waits for it',
    width: 16,
    cell: o => o.frees > 0 && <span className={textCss.risk}>◆ {count(o.frees, 'Short order')}</span>,
  },
  {
    id: 'acts',
    head: 'Acts',
    width: 24,
    right: true,
    fixed: true,
    cell: o =>
      o.state === 'open' ? (
        <>
          {receive && (
            <Button
              size="small"
              variant="outlined"
              color="secondary"
              component={Link}
              to={`/receiving/${o.no}`}
            >
              Receive
            </Button>
          )}
          {end && (
            <Button size="small" onClick={() => end(o)}>
              Rest is not coming
            </Button>
          )}
        </>
      ) : (
        <span className={o.state === 'done' ? textCss.good : textCss.quiet}>
          {o.state === 'to buyer' ? '⇢ to the buyer' : o.state === 'done' ? '✓ done' : '— nothing came'}
        </span>
      ),
  },
];
