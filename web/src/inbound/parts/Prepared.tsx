import type { InboundLineView, InboundView } from '@auk/contract';
import { formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { v7 } from 'uuid';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { setLine, setPrepared } from '../api.js';
import css from '../inbound.module.css';
import { useAct } from '../useAct.js';

const WHO = [
  ['us', 'by us'],
  ['network', 'by the network'],
] as const;

/** What units of a line need, and what is not known of them. */
const NEEDS: Column<InboundLineView>[] = [
  {
    id: 'product',
    head: 'Product',
    width: 26,
    cell: l => (
      <>
        {l.name} <span className={`${textCss.code} ${textCss.quiet}`}>{l.sku}</span>
      </>
    ),
  },
  {
    id: 'needs',
    head: 'Needs',
    width: 20,
    cell: l => (l.needs.length === 0 ? 'nothing' : l.needs.map(n => n.needs).join(', ')),
  },
];
const LACKS: Column<InboundLineView> = {
  id: 'lacks',
  head: 'Not known',
  width: 20,
  cell: l =>
    l.lacking.length > 0 && (
      <span className={textCss.stop}>
        ▲ {l.lacking.map(x => x.says).join('; ')}:{' '}
        <Link to={`/products/${encodeURIComponent(l.sku)}`}>give it on its page</Link>
      </span>
    ),
};

interface PreparedProps {
  view: InboundView;
  may: boolean;
  works: boolean;
}

/** Their fee, who does it, and how far it is. */
const feeColumn = (currency: string): Column<InboundLineView> => ({
  id: 'fee',
  head: 'Their fee a unit',
  right: true,
  width: 11,
  cell: l =>
    formatMoney(
      l.needs.reduce((n, x) => n + (x.feeMinor ?? 0), 0),
      currency,
    ),
});
const whoColumn = (
  may: boolean,
  change: (line: InboundLineView & { by: 'us' | 'network' }) => void,
): Column<InboundLineView> => ({
  id: 'who',
  head: 'Who does it',
  width: 14,
  cell: l =>
    may ? (
      <Choice
        bare
        label={`Who prepares ${l.sku}`}
        value={l.by}
        options={WHO}
        onChoose={by => change({ ...l, by })}
      />
    ) : (
      WHO.find(([v]) => v === l.by)![1]
    ),
});
const doneColumn = (works: boolean, count: (line: InboundLineView) => void): Column<InboundLineView> => ({
  id: 'done',
  head: 'Done',
  width: 13,
  cell: l =>
    l.by === 'network' || l.needs.length === 0 ? (
      ''
    ) : (
      <>
        {l.prepared} of {l.units}
        {l.spoiled > 0 && <span className={textCss.risk}> ▲ {l.spoiled} spoiled</span>}
        {works && l.prepared < l.units && (
          <Button size="small" onClick={() => count(l)}>
            Count
          </Button>
        )}
      </>
    ),
});

/** What units need before they go, who does it, what is not known of them, and how many are done. */
export function Prepared({ view, may, works }: PreparedProps) {
  const [at, setAt] = useState<InboundLineView | null>(null);
  const change = useAct((l: InboundLineView & { by: 'us' | 'network' }) =>
    setLine(view.no, { sku: l.sku, units: l.units, inCases: l.perCase !== null, by: l.by }),
  );
  const columns = [
    ...NEEDS,
    feeColumn(view.currency),
    whoColumn(may, change.mutate),
    LACKS,
    doneColumn(works, setAt),
  ];
  return (
    <>
      <ProblemNote error={change.error} />
      {view.lines.some(l => l.by === 'us' && l.needs.some(n => n.needs === 'label')) && (
        <p className={css.papers}>
          Unit labels:
          <a href={`/api/v1/inbound/${view.no}/unit-labels/sheet`} target="_blank" rel="noreferrer">
            on sheets
          </a>
          <a href={`/api/v1/inbound/${view.no}/unit-labels/thermal`} target="_blank" rel="noreferrer">
            for a label printer
          </a>
        </p>
      )}
      {works && view.parts.some(p => p.order !== null && p.boxes.length === 0 && p.stage === 'Draft') && (
        <p>
          <Link to={`/prepare?at=${view.no}`}>Prepare it by scan</Link>, with a label out of the bench’s
          printer for each unit.
        </p>
      )}
      <DataTable
        name="inbound-prepared"
        label="Preparation"
        arrangeable={false}
        rows={view.lines}
        idOf={l => l.sku}
        columns={columns}
        empty="No product yet."
      />
      {at && <CountDone no={view.no} line={at} leave={() => setAt(null)} />}
    </>
  );
}

function CountDone({ no, line, leave }: { no: string; line: InboundLineView; leave: () => void }) {
  const [key] = useState(() => v7());
  const [done, setDone] = useState(String(line.units - line.prepared));
  const [spoiled, setSpoiled] = useState('0');
  const count = useAct(
    () => setPrepared(no, { key, sku: line.sku, done: Number(done), spoiled: Number(spoiled) }),
    leave,
  );
  return (
    <Ask
      title={`${line.name}: ${line.needs.map(n => n.needs).join(', ')}`}
      act="Count it"
      busy={count.isPending}
      error={count.error}
      onAct={() => count.mutate()}
      onLeave={leave}
    >
      <Line label="Done now" digits value={done} onType={setDone} />
      <Line label="Spoiled" digits value={spoiled} onType={setSpoiled} />
    </Ask>
  );
}
