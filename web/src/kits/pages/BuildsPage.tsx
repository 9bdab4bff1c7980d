import { BuildRow, can, ProposedBuildRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { CodeLink } from '../../parts/Code.js';
import { day } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { Picture } from '../../parts/picture.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { buildsQuery, proposedBuildsQuery } from '../api.js';
import css from '../kits.module.css';
import { KitsNav } from '../parts/KitsNav.js';
import { PartsText } from '../parts/PartsText.js';
import { PlanBuild } from '../parts/PlanBuild.js';
import { TakeApart } from '../parts/TakeApart.js';

/** Builds: what is being made, what should be made, and what was. */
export default function BuildsPage() {
  const me = useMe();
  const builds = useQuery(buildsQuery);
  const proposed = useQuery(proposedBuildsQuery);
  const [plan, setPlan] = useState<ProposedBuildRow | null>(null);
  const [apart, setApart] = useState(false);
  const navigate = useNavigate();
  const desk = can(me, 'builds.plan');
  const proposals = useMemo(() => proposalColumns(desk ? setPlan : null), [desk]);
  const open = builds.data?.filter(b => b.state === 'open') ?? [];
  const ended = builds.data?.filter(b => b.state !== 'open') ?? [];
  return (
    <>
      <KitsNav />
      <Head title="Builds" about="Kits made ahead. Their parts are reserved and picked like an order.">
        {can(me, 'builds.work') && (
          <Button variant="outlined" color="secondary" onClick={() => setApart(true)}>
            Take kits apart
          </Button>
        )}
      </Head>
      <ProblemNote error={builds.error ?? proposed.error} />
      {apart && <TakeApart leave={() => setApart(false)} done={no => void navigate(`/builds/${no}`)} />}
      {plan && (
        <PlanBuild
          sku={plan.sku}
          name={plan.name}
          suggested={plan.now > 0 ? plan.now : plan.quantity}
          leave={() => setPlan(null)}
          planned={no => void navigate(`/builds/${no}`)}
        />
      )}
      <h2>Being made</h2>
      <BuildTable
        name="Being made"
        rows={open}
        empty={
          builds.isSuccess && 'Nothing is being built. Plan one from the proposals, or on the page of a kit.'
        }
      />
      <h2 style={{ marginTop: 28 }}>Should be made</h2>
      <DataTable
        name="proposed-build"
        label="Should be made"
        arrangeable={false}
        rows={proposed.data ?? []}
        idOf={p => p.sku}
        columns={proposals}
        to={p => `/kits/${encodeURIComponent(p.sku)}`}
        empty={proposed.isSuccess && 'No open order lacks a kit, and each has its least stock.'}
      />
      {ended.length > 0 && (
        <>
          <h2 style={{ marginTop: 28 }}>Lately</h2>
          <BuildTable name="Lately" rows={ended} empty={null} />
        </>
      )}
    </>
  );
}

const proposalColumns = (plan: ((p: ProposedBuildRow) => void) | null): Column<ProposedBuildRow>[] => [
  {
    id: 'kit',
    head: 'Kit',
    width: 24,
    cell: p => (
      <Link className={textCss.name} to={`/kits/${encodeURIComponent(p.sku)}`}>
        <b>{p.name}</b>
      </Link>
    ),
  },
  { id: 'wanted', head: 'Wanted', right: true, width: 8, cell: p => p.quantity },
  {
    id: 'now',
    head: 'Can be made now',
    right: true,
    width: 13,
    cell: p => (p.now < p.quantity ? <span className={textCss.risk}>▲ {p.now}</span> : p.now),
  },
  { id: 'why', head: 'Why', width: 24, cell: p => p.why },
  {
    id: 'lacks',
    head: 'Lacks for all',
    width: 26,
    cell: p => (
      <div className={css.lacks}>
        <PartsText parts={p.limits} />
      </div>
    ),
  },
  {
    id: 'acts',
    head: 'Acts',
    width: 8,
    right: true,
    fixed: true,
    cell: p =>
      plan && (
        <Button size="small" onClick={() => plan(p)}>
          Plan
        </Button>
      ),
  },
];

const ENDED = { done: '✓ finished', cancelled: '— given up', open: '' };

const BUILDS: Column<BuildRow>[] = [
  {
    id: 'picture',
    head: 'Picture',
    width: 4,
    fixed: true,
    cell: b => <Picture name={b.picture} size={26} />,
  },
  { id: 'build', head: 'Build', cell: b => <CodeLink to={`/builds/${b.no}`}>{b.no}</CodeLink> },
  { id: 'kit', head: 'Kit', width: 30, cell: b => b.name },
  {
    id: 'made',
    head: 'Made',
    right: true,
    width: 12,
    cell: b => (b.kind === 'unbuild' ? `${b.quantity} taken apart` : `${b.made} of ${b.quantity}`),
  },
  { id: 'parts', head: 'Parts', width: 18, cell: b => <Parts build={b} /> },
  { id: 'due', head: 'Due', cell: b => day(b.due) },
  { id: 'bench', head: 'Bench', cell: b => <span className={textCss.code}>{b.bench}</span> },
];

function Parts({ build: b }: { build: BuildRow }) {
  if (b.state !== 'open') return ENDED[b.state];
  return b.parts === 'parts short' ? <span className={textCss.risk}>◆ {b.parts}</span> : b.parts;
}

interface BuildTableProps {
  name: string;
  rows: readonly BuildRow[];
  empty: string | false | null;
}

function BuildTable({ name, rows, empty }: BuildTableProps) {
  return (
    <DataTable
      name="build"
      label={name}
      arrangeable={false}
      rows={rows}
      idOf={b => b.no}
      columns={BUILDS}
      to={b => `/builds/${b.no}`}
      empty={empty}
    />
  );
}
