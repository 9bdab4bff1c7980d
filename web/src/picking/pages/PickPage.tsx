import { ListRow } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { CodeLink } from '../../parts/Code.js';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import { listsQuery, papersPath } from '../api.js';
import { PickNav } from '../parts/PickNav.js';

const STATE: Record<ListRow['state'], string> = {
  released: '○ waits',
  picking: '◐ being picked',
  done: '● done',
};

/** Pick lists: those that wait, those under way, and the newest done. */
export default function PickPage() {
  const lists = useQuery(listsQuery);
  const navigate = useNavigate();
  const [chosen, choose] = useState<ReadonlySet<string>>(new Set());
  return (
    <>
      <PickNav />
      <Head title="Pick lists" about="Scan a list's code on the Floor to pick it.">
        <Button component={Link} to="/wall" variant="outlined" color="secondary">
          Put wall
        </Button>
        <Button component={Link} to="/pick/plan" variant="contained">
          Plan pick lists
        </Button>
      </Head>
      <ProblemNote error={lists.error} />
      <DataTable
        name="lists"
        label="Pick lists"
        rows={lists.data ?? []}
        idOf={l => l.no}
        columns={COLUMNS}
        chosen={{ ids: chosen, set: choose, nameOf: l => l.no }}
        tools={chosen.size > 0 && <Papers lists={[...chosen]} />}
        to={l => `/pick/${l.no}`}
        onKey={(key, l) => {
          if (key !== 'Enter') return false;
          void navigate(`/pick/${l.no}`);
          return true;
        }}
        empty={
          lists.isSuccess && 'There is no pick list yet. Plan some, or choose Clear orders and make one.'
        }
      />
    </>
  );
}

const PAPERS = [
  ['lists,slips,labels', 'all papers'],
  ['lists', 'lists'],
  ['slips', 'slips'],
  ['labels', 'place labels'],
] as const;

/** The papers of chosen lists, in walking order, each kind or all of them as one document. */
function Papers({ lists }: { lists: string[] }) {
  return (
    <span>
      Print of {count(lists.length, 'list')}:{' '}
      {PAPERS.map(([papers, words], i) => (
        <span key={papers}>
          {i > 0 && ' · '}
          <a href={papersPath(lists, papers)} target="_blank" rel="noreferrer">
            {words}
          </a>
        </span>
      ))}
    </span>
  );
}

const COLUMNS: Column<ListRow>[] = [
  { id: 'list', head: 'List', width: 10, cell: l => <CodeLink to={`/pick/${l.no}`}>{l.no}</CodeLink> },
  { id: 'state', head: 'State', width: 14, cell: l => STATE[l.state] },
  { id: 'picker', head: 'Picker', width: 16, cell: l => l.picker ?? (l.for && `for ${l.for}`) },
  { id: 'leaves', head: 'Leaves', width: 12, cell: l => l.cutOff && moment(l.cutOff) },
  { id: 'orders', head: 'Orders', right: true, width: 8, cell: l => l.orders },
  { id: 'stops', head: 'Stops', right: true, width: 8, cell: l => l.stops },
  { id: 'taken', head: 'Taken', right: true, width: 10, cell: l => `${l.taken} of ${l.units}` },
  { id: 'walk', head: 'Walk', right: true, width: 8, cell: l => `${l.metres} m` },
  { id: 'made', head: 'Made', width: 16, cell: l => moment(l.createdAt) },
  {
    id: 'acts',
    head: 'Acts',
    width: 10,
    right: true,
    fixed: true,
    cell: l =>
      l.state !== 'done' && (
        <Button size="small" component={Link} to={`/floor/${l.no}`}>
          Pick
        </Button>
      ),
  },
];
