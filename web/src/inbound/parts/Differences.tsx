import { can, type InboundPartView, type InboundView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { Line } from '../../parts/Line.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { decideDifference } from '../api.js';
import { useAct } from '../useAct.js';

type Difference = InboundPartView['differences'][number];

/** Where what was counted is not what was sent; each is decided with its reason. */
export function Differences({ view, part }: { view: InboundView; part: InboundPartView }) {
  const me = useMe();
  const [at, setAt] = useState<Difference | null>(null);
  const decides = can(me, 'inbound.book');
  const columns: Column<Difference>[] = [
    { id: 'code', head: 'Product', width: 16, cell: d => <span className={textCss.code}>{d.code}</span> },
    { id: 'sscc', head: 'In box', width: 20, cell: d => <span className={textCss.code}>{d.sscc}</span> },
    {
      id: 'what',
      head: 'Difference',
      width: 22,
      cell: d => (
        <span className={textCss.stop}>
          ▲ {d.missing > 0 ? `${d.missing} missing` : `${d.surplus} too many`}
          {d.stranger && ', not sent at all'}
        </span>
      ),
    },
    {
      id: 'decided',
      head: 'Decided',
      width: 30,
      cell: d =>
        d.state === 'open'
          ? decides && (
              <Button size="small" variant="outlined" onClick={() => setAt(d)}>
                Decide
              </Button>
            )
          : `${d.state}: ${d.reason}`,
    },
  ];
  return (
    <>
      <h3>Counted otherwise</h3>
      {part.differences.some(d => d.missing > 0) && (
        <p>
          <a href={`/api/v1/inbound/${view.no}/claim.csv`}>Claim file</a> of what is missing.
        </p>
      )}
      <DataTable
        name="inbound-differences"
        label={`Counted otherwise at ${part.center}`}
        arrangeable={false}
        rows={part.differences}
        idOf={d => d.id}
        columns={columns}
      />
      {at && <Decide difference={at} leave={() => setAt(null)} />}
    </>
  );
}

const LOST = [
  ['claimed', 'claimed from the network'],
  ['written off', 'written off'],
] as const;
const MORE = [['booked', 'booked at the center']] as const;

function Decide({ difference: d, leave }: { difference: Difference; leave: () => void }) {
  const options = d.missing > 0 ? LOST : MORE;
  const [as, setAs] = useState<string>(options[0][0]);
  const [reason, setReason] = useState('');
  const decide = useAct(() => decideDifference(d.id, as, reason.trim()), leave);
  return (
    <Ask
      title={`${d.code}: ${d.missing > 0 ? `${d.missing} missing` : `${d.surplus} too many`}`}
      act="Decide"
      ready={reason.trim().length >= 3}
      busy={decide.isPending}
      error={decide.error}
      onAct={() => decide.mutate()}
      onLeave={leave}
    >
      <Choice label="Is" fullWidth value={as} options={options as never} onChoose={v => setAs(v)} />
      <Line label="Why" most={120} value={reason} onType={setReason} autoFocus />
    </Ask>
  );
}
