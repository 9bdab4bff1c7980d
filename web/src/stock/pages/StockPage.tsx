import { can } from '@auk/contract';
import Button from '@mui/material/Button';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { Choice, type Options } from '../../parts/Choice.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { SearchField } from '../../parts/SearchField.js';
import { Tick } from '../../parts/Tick.js';
import { DataTable } from '../../parts/table/DataTable.js';
import { useMore } from '../../parts/useMore.js';
import { useQuestion } from '../../parts/useQuestion.js';
import { useMe } from '../../people/useMe.js';
import { stockQuery } from '../api.js';
import { CarryStock, type CarryWhat } from '../parts/CarryStock.js';
import { ReserveMode, ServeAgain } from '../parts/Promises.js';
import { StockNav } from '../parts/StockNav.js';
import { stockColumns } from '../parts/stockColumns.js';
import { KIND_WORDS } from '../words.js';

const KINDS: Options = [['', 'every kind of place'], ...Object.entries(KIND_WORDS)];

/** Stock by product, place and lot: what lies where, what is promised, what expires; moved and written off with a reason. */
export default function StockPage() {
  const me = useMe();
  const { question, part, set } = useQuestion();
  const [carry, setCarry] = useState<CarryWhat | null>(null);
  const stock = useInfiniteQuery(stockQuery(question));
  const rows = stock.data?.pages.flatMap(p => p.rows) ?? [];
  const mayWriteOff = can(me, 'stock.write-off');
  const columns = useMemo(() => stockColumns(setCarry, mayWriteOff), [mayWriteOff]);
  return (
    <>
      <StockNav />
      <Head title="Stock" about="What lies where, what of it is promised, and what expires.">
        {can(me, 'stock.serve') && <ServeAgain />}
        {mayWriteOff && (
          <Button component={Link} to="/bring-in?kind=stock" variant="outlined" color="secondary">
            Bring in a count
          </Button>
        )}
      </Head>
      <ProblemNote error={stock.error} />
      {carry && <CarryStock what={carry} leave={() => setCarry(null)} />}
      <DataTable
        filters={
          <>
            <SearchField
              label="SKU, name, place or lot"
              value={part('words')}
              onAsk={words => set('words', words)}
            />
            <Choice
              label="Kind of place"
              value={part('kind')}
              options={KINDS}
              onChoose={kind => set('kind', kind)}
            />
            <ReserveMode lead={can(me, 'stock.serve')} />
            <Tick
              label="expires within 60 days, or has expired"
              checked={part('expiring') === 'yes'}
              onTick={on => set('expiring', on ? 'yes' : '')}
            />
          </>
        }
        name="stock"
        label="Stock"
        rows={rows}
        idOf={r => r.key}
        columns={columns}
        to={r => `/products/${encodeURIComponent(r.sku)}/ledger`}
        more={useMore(stock)}
        empty={
          stock.isSuccess &&
          'Nothing like that lies in the house. Stock comes in by receiving, a build or a count.'
        }
      />
    </>
  );
}
