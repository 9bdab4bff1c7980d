import { LedgerPage as Ledger } from '@auk/contract';
import Button from '@mui/material/Button';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMore } from '../../parts/useMore.js';
import { Waiting } from '../../parts/Waiting.js';
import { ledgerQuery } from '../api.js';
import { BalanceChart } from '../parts/BalanceChart.js';
import { StockNav } from '../parts/StockNav.js';
import { WHY_WORDS } from '../words.js';

type Move = Ledger['rows'][number];

const codes = (id: 'from' | 'to' | 'lot', head: string): Column<Move> => ({
  id,
  head,
  width: 11,
  cell: m => <span className={textCss.code}>{m[id]}</span>,
});

const COLUMNS: Column<Move>[] = [
  { id: 'when', head: 'When', width: 14, cell: m => moment(m.at) },
  {
    id: 'why',
    head: 'Why',
    width: 16,
    cell: m => (
      <>
        {WHY_WORDS[m.why] ?? m.why}
        {m.reason && <div className={textCss.quiet}>{m.reason}</div>}
      </>
    ),
  },
  codes('from', 'From'),
  codes('to', 'To'),
  codes('lot', 'Lot'),
  { id: 'units', head: 'Units', right: true, width: 8, cell: m => <Change move={m} /> },
  { id: 'after', head: 'On hand after', right: true, cell: m => m.onHand },
  {
    id: 'document',
    head: 'Document',
    width: 12,
    cell: m =>
      m.document && (
        <Link className={textCss.name} to={m.document.path}>
          {m.document.name}
        </Link>
      ),
  },
  { id: 'who', head: 'Who', cell: m => m.person ?? <span className={textCss.quiet}>Auk</span> },
];

function Change({ move: m }: { move: Move }) {
  if (m.change === 0) return <span className={textCss.quiet}>{m.quantity} moved</span>;
  return (
    <b className={m.change > 0 ? textCss.good : ''}>{m.change > 0 ? `+${m.change}` : `−${-m.change}`}</b>
  );
}

/** A product's ledger: every move with why, who and document, and the balance over time. */
export default function LedgerPage() {
  const { sku } = useParams();
  const ledger = useInfiniteQuery(ledgerQuery(sku!));
  const more = useMore(ledger);
  const first = ledger.data?.pages[0];
  if (!first) return <Waiting error={ledger.error} />;
  return (
    <>
      <StockNav />
      <Head
        tab={`${first.sku}, its ledger`}
        title={`Ledger: ${first.name}`}
        about={
          <>
            <span className={textCss.code}>{first.sku}</span> · <b>{first.onHand}</b> on hand,{' '}
            <b>{first.reserved}</b> promised to orders
          </>
        }
      >
        <Button
          component={Link}
          variant="outlined"
          color="secondary"
          to={`/products/${encodeURIComponent(first.sku)}`}
        >
          The product
        </Button>
      </Head>
      <BalanceChart days={first.days} name={first.name} />
      <DataTable
        name="ledger"
        label="Moves"
        rows={ledger.data!.pages.flatMap(p => p.rows)}
        idOf={m => String(m.id)}
        columns={COLUMNS}
        more={more}
        empty="It has never moved. Stock comes in by receiving, a build or a count."
      />
    </>
  );
}
