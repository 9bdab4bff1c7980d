import { can, ListView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { changed } from '../../asked.js';
import { Choice } from '../../parts/Choice.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import { handList, listQuery, pickersQuery } from '../api.js';
import { WalkMap } from '../parts/WalkMap.js';

/** One pick list: its walk, its stops in walking order, and its paper. */
export default function ListPage() {
  const { no } = useParams();
  const me = useMe();
  const list = useQuery(listQuery(no!));
  if (!list.data) return <Waiting error={list.error} />;
  const l = list.data;
  return (
    <>
      <Head
        tab={l.no}
        title={
          <>
            Pick list <span className={textCss.code}>{l.no}</span>
          </>
        }
        about={`${count(l.orders, 'order')}, ${count(l.stops, 'stop')}, ${l.taken} of ${count(l.units, 'piece')} taken, ${l.metres} m to walk${byOf(l)}`}
      >
        <Button
          variant="outlined"
          color="secondary"
          href={`/api/v1/picking/lists/${l.no}/sheet.pdf`}
          target="_blank"
        >
          Print
        </Button>
        {l.state !== 'done' && (
          <Button variant="contained" component={Link} to={`/floor/${l.no}`}>
            Pick it
          </Button>
        )}
      </Head>
      {l.state === 'released' && can(me, 'lists.release') && <HandOver list={l} />}
      <div className={pageCss.withside}>
        <div>
          <DataTable
            name="stops"
            label="Stops"
            rows={l.rows}
            idOf={r => String(r.seq)}
            columns={COLUMNS}
            empty="Nothing is to be taken any more."
          />
        </div>
        <aside className={pageCss.side}>
          <h2>The walk</h2>
          <WalkMap
            stops={l.rows.map(r => ({ aisle: r.aisle, along: r.along, done: r.taken >= r.quantity }))}
            at={null}
            height={200}
          />
          <p className={textCss.quiet}>
            From the start through the stops in their order; a stop whose place stands nowhere is walked last
            and is not drawn.
          </p>
        </aside>
      </div>
    </>
  );
}

/** Who picks it; where several did, how much each scanned. */
function byOf({ picker, by }: ListView): string {
  if (by.every(b => b.name === picker)) return picker ? `, ${picker}` : '';
  const scanned = by.map(b => `${b.name} (${count(b.scans, 'scan')})`);
  return `, ${[...scanned, ...(picker ? [`now ${picker}`] : [])].join(', ')}`;
}

/** For whom the list is: anybody, or one person, who is given it when they take the next. */
function HandOver({ list }: { list: ListView }) {
  const pickers = useQuery(pickersQuery);
  const client = useQueryClient();
  const hand = useMutation({
    mutationFn: (id: string) => handList(list.no, id === '' ? null : id),
    onSuccess: () => changed(client, 'lists'),
  });
  const people = pickers.data ?? [];
  return (
    <div className={pageCss.tools}>
      <ProblemNote error={hand.error} />
      <Choice
        label="For"
        value={people.find(p => p.name === list.for)?.id ?? ''}
        options={[['', 'anybody'], ...people.map(p => [p.id, p.name] as const)]}
        disabled={hand.isPending}
        onChoose={id => hand.mutate(id)}
      />
    </div>
  );
}

type Stop = ListView['rows'][number];

const COLUMNS: Column<Stop>[] = [
  { id: 'stop', head: 'Stop', right: true, width: 5, cell: r => r.seq },
  { id: 'place', head: 'Place', width: 9, cell: r => <span className={textCss.code}>{r.place}</span> },
  { id: 'product', head: 'Product', width: 24, cell: r => r.name },
  { id: 'sku', head: 'SKU', width: 12, cell: r => <span className={textCss.code}>{r.sku}</span> },
  { id: 'pieces', head: 'Pieces', right: true, width: 8, cell: r => `${r.taken} of ${r.quantity}` },
  { id: 'tote', head: 'Into tote', width: 9, cell: r => <span className={textCss.code}>{r.tote}</span> },
  { id: 'order', head: 'Order', width: 13, cell: r => <span className={textCss.code}>{r.order}</span> },
];
