import { can, type MeasuredRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { changed } from '../../asked.js';
import { CodeLink } from '../../parts/Code.js';
import { moment, size, weight } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { decideMeasure, measuresQuery } from '../api.js';

/** Sizes and weights that benches found otherwise than they are kept: taken on, or let go. */
export default function MeasuredPage() {
  const measures = useQuery(measuresQuery);
  return (
    <>
      <Head
        title="Measured at the benches"
        about="What a tape or a scale found otherwise than it is kept. Taken on, it counts for boxes, rates and the check of contents."
      />
      <ProblemNote error={measures.error} />
      <DataTable
        name="measured"
        label="Measured at the benches"
        rows={measures.data ?? []}
        idOf={r => r.id}
        columns={COLUMNS}
        arrangeable={false}
        empty={
          measures.isSuccess &&
          'Nothing waits to be looked at. Sizes that are typed at a bench and weights of parcels of one product come here.'
        }
      />
    </>
  );
}

function Decide({ row }: { row: MeasuredRow }) {
  const client = useQueryClient();
  const may = can(useMe(), 'products.change');
  const decide = useMutation({
    mutationFn: (take: boolean) => decideMeasure(row.id, take),
    onSuccess: async (_, take) => {
      say(take ? `${row.name} has it now.` : 'It is let go.');
      await changed(client, 'catalog');
    },
  });
  return (
    <>
      <Button
        size="small"
        variant="outlined"
        color="secondary"
        disabled={!may || decide.isPending}
        onClick={() => decide.mutate(true)}
      >
        Take it on
      </Button>{' '}
      <Button size="small" disabled={!may || decide.isPending} onClick={() => decide.mutate(false)}>
        Let it go
      </Button>
      <ProblemNote error={decide.error} />
    </>
  );
}

const kept = (r: MeasuredRow): string =>
  r.weightMg === null
    ? r.keptSize
      ? size(r.keptSize)
      : 'no size'
    : r.keptMg === null
      ? 'no weight'
      : weight(r.keptMg);

const COLUMNS: Column<MeasuredRow>[] = [
  {
    id: 'product',
    head: 'Product',
    width: 28,
    cell: r => (
      <>
        <CodeLink to={`/products/${r.sku}`}>{r.sku}</CodeLink> {r.name}
      </>
    ),
  },
  {
    id: 'found',
    head: 'Found',
    width: 16,
    cell: r => <b>{r.weightMg === null ? size(r.size!) : weight(r.weightMg)}</b>,
  },
  { id: 'kept', head: 'Kept so far', width: 14, cell: kept },
  {
    id: 'by',
    head: 'By',
    width: 18,
    cell: r => (
      <>
        {r.person}
        <div className={textCss.quiet}>
          {moment(r.at)}
          {r.order && `, ${r.order}`}
        </div>
      </>
    ),
  },
  { id: 'decide', head: '', width: 18, cell: r => <Decide row={r} /> },
];
