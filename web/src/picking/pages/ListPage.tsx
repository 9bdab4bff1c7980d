import { ListView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { listQuery } from '../api.js';
import { WalkMap } from '../parts/WalkMap.js';

/** One pick list: its walk, its stops in walking order, and its paper. */
export default function ListPage() {
  const { no } = useParams();
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
        about={`${count(l.orders, 'order')}, ${count(l.stops, 'stop')}, ${l.taken} of ${count(l.units, 'piece')} taken, ${l.metres} m to walk${l.picker ? `, ${l.picker}` : ''}`}
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
