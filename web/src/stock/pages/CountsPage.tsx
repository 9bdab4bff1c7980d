import { CountProposal } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { CodeLink } from '../../parts/Code.js';
import { Form } from '../../parts/Form.js';
import { day } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { countsQuery } from '../api.js';
import { StockNav } from '../parts/StockNav.js';

const countOf = (place: string) => `/stock/counts/${encodeURIComponent(place)}`;

const COLUMNS: Column<CountProposal>[] = [
  { id: 'place', head: 'Place', width: 12, cell: p => <CodeLink to={countOf(p.place)}>{p.place}</CodeLink> },
  {
    id: 'product',
    head: 'Product',
    width: 34,
    cell: p => (
      <>
        {p.name} <span className={`${textCss.code} ${textCss.quiet}`}>{p.sku}</span>
      </>
    ),
  },
  {
    id: 'why',
    head: 'Why',
    width: 34,
    cell: p => (p.why.includes('found') ? <span className={textCss.risk}>▲ {p.why}</span> : p.why),
  },
  {
    id: 'counted',
    head: 'Last counted',
    width: 14,
    cell: p => (p.countedAt ? day(p.countedAt) : <span className={textCss.quiet}>never</span>),
  },
];

/** What should be counted next, and a way to count any place. */
export default function CountsPage() {
  const proposed = useQuery(countsQuery);
  const [place, setPlace] = useState('');
  const navigate = useNavigate();
  return (
    <>
      <StockNav />
      <Head
        title="Counts"
        about="Proposed by what was found otherwise before, and by value that lay long uncounted."
      >
        <Form ready={place.trim() !== ''} onSend={() => void navigate(countOf(place.trim()))}>
          <Line
            label="Count a place"
            capitals
            width={10}
            placeholder="A-07-2"
            value={place}
            onType={setPlace}
          />
        </Form>
      </Head>
      <ProblemNote error={proposed.error} />
      <DataTable
        name="count"
        label="Proposed counts"
        rows={proposed.data ?? []}
        idOf={p => p.place + p.sku}
        columns={COLUMNS}
        to={p => countOf(p.place)}
        empty={proposed.isSuccess && 'Nothing needs counting: all was counted lately and found right.'}
      />
    </>
  );
}
