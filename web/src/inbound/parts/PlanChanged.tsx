import type { InboundView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { v7 } from 'uuid';
import { Ask } from '../../parts/ask.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { takePlan } from '../api.js';
import css from '../inbound.module.css';
import { useAct } from '../useAct.js';

type Change = InboundView['planChanged'][number];

const COLUMNS: Column<Change>[] = [
  { id: 'center', head: 'Center', width: 12, cell: c => c.center },
  {
    id: 'product',
    head: 'Product',
    width: 26,
    cell: c => (
      <>
        {c.name} <span className={`${textCss.code} ${textCss.quiet}`}>{c.sku}</span>
      </>
    ),
  },
  { id: 'before', head: 'Made ready', right: true, width: 9, cell: c => c.before },
  { id: 'now', head: 'Wanted now', right: true, width: 9, cell: c => c.now },
  {
    id: 'what',
    head: 'Then',
    width: 12,
    cell: c => (c.now < c.before ? `▼ ${c.before - c.now} out` : `▲ ${c.now - c.before} more`),
  },
  {
    id: 'boxes',
    head: 'In boxes',
    width: 20,
    cell: c =>
      c.boxes.map(b => (
        <span key={b} className={textCss.code}>
          {b}{' '}
        </span>
      )),
  },
];

/** What the network has changed of its plan since the boxes were made ready by it, and taking that in. */
export function PlanChanged({ view, may }: { view: InboundView; may: boolean }) {
  const [asks, setAsks] = useState(false);
  const [key] = useState(() => v7());
  const take = useAct(
    () => takePlan(view.no, key),
    () => setAsks(false),
  );
  const reserved = view.parts.some(p => p.order !== null);
  const concerned = [...new Set(view.planChanged.filter(c => c.before > 0).map(c => c.center))];
  return (
    <section className={css.changed} aria-label="The plan was changed">
      <h2 className={textCss.risk}>▲ {view.network} has changed its plan</h2>
      <p>
        {reserved
          ? 'Nothing more is booked by the old one. What is named is repacked once the new plan is taken.'
          : 'Choose the way again; its boxes are planned anew.'}
      </p>
      <DataTable
        name="inbound-changed"
        label="What was changed"
        arrangeable={false}
        rows={view.planChanged}
        idOf={c => `${c.center} ${c.sku}`}
        columns={COLUMNS}
        empty=""
      />
      {reserved && may && (
        <p>
          <Button variant="contained" onClick={() => setAsks(true)}>
            Take the new plan
          </Button>
        </p>
      )}
      {asks && (
        <Ask
          title={`Take the new plan of ${view.network}?`}
          act="Take it"
          busy={take.isPending}
          error={take.error}
          onAct={() => take.mutate()}
          onLeave={() => setAsks(false)}
        >
          What was picked or packed for {concerned.join(' and ')} is laid on the staging place, and is listed
          and packed anew by the new plan. The other centers stay as they are.
        </Ask>
      )}
    </section>
  );
}
