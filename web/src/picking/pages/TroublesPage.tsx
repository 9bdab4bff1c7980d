import type { ByHandRow, MixUpRow } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { CodeLink } from '../../parts/Code.js';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { troublesQuery } from '../api.js';
import { PickNav } from '../parts/PickNav.js';

/** What goes wrong at the shelves: products that are taken for each other, and labels that could not be scanned. */
export default function TroublesPage() {
  const troubles = useQuery(troublesQuery);
  const t = troubles.data;
  return (
    <>
      <PickNav />
      <Head
        title="What goes wrong"
        about={`At the shelves, in the last ${t?.days ?? 30} days: what is taken for what, and what has no label.`}
      />
      <ProblemNote error={troubles.error} />
      <h2>Taken for each other</h2>
      <DataTable
        name="mix-ups"
        label="Taken for each other"
        rows={t?.mixUps ?? []}
        idOf={r => `${r.wanted.sku} ${r.scanned.sku}`}
        columns={MIX_UPS}
        arrangeable={false}
        empty={troubles.isSuccess && 'Nothing was taken for anything else.'}
      />
      <h2>Typed or pressed, not scanned</h2>
      <DataTable
        name="by-hand"
        label="Typed or pressed"
        rows={t?.byHand ?? []}
        idOf={r => r.said}
        columns={BY_HAND}
        arrangeable={false}
        empty={troubles.isSuccess && 'Every code was scanned.'}
      />
    </>
  );
}

function Product({ of }: { of: MixUpRow['wanted'] }) {
  return (
    <>
      <CodeLink to={`/products/${of.sku}`}>{of.sku}</CodeLink> {of.name}
      <div className={textCss.quiet}>
        {of.places.length > 0 ? `at ${of.places.join(', ')}` : 'not on a shelf'}
      </div>
    </>
  );
}

const MIX_UPS: Column<MixUpRow>[] = [
  { id: 'wanted', head: 'Wanted', width: 26, cell: r => <Product of={r.wanted} /> },
  { id: 'scanned', head: 'Taken instead', width: 26, cell: r => <Product of={r.scanned} /> },
  { id: 'times', head: 'Times', right: true, width: 7, cell: r => r.times },
  {
    id: 'apart',
    head: 'Apart',
    right: true,
    width: 8,
    cell: r => (r.metres === null ? '' : `${r.metres} m`),
  },
  {
    id: 'move',
    head: 'What would help',
    width: 24,
    cell: r =>
      r.move ? (
        <>
          Move <span className={textCss.code}>{r.move.sku}</span> from{' '}
          <span className={textCss.code}>{r.move.from}</span> to{' '}
          <span className={textCss.code}>{r.move.to}</span>, {r.move.metres} m away
        </>
      ) : (
        <span className={textCss.quiet}>They lie apart already; a picture may help.</span>
      ),
  },
  { id: 'last', head: 'Last', width: 14, cell: r => moment(r.last) },
];

const BY_HAND: Column<ByHandRow>[] = [
  { id: 'said', head: 'Code', width: 16, cell: r => <span className={textCss.code}>{r.said}</span> },
  { id: 'what', head: 'Of', width: 30, cell: r => r.what },
  { id: 'times', head: 'Times', right: true, width: 7, cell: r => r.times },
  { id: 'people', head: 'By', width: 24, cell: r => r.people },
  { id: 'last', head: 'Last', width: 14, cell: r => moment(r.last) },
];
