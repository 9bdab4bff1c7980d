import { BuildView, can, Person } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { day, moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { Picture } from '../../parts/picture.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import { makeList } from '../../picking/api.js';
import { buildQuery, stopBuild } from '../api.js';
import css from '../kits.module.css';
import { FinishBuild } from '../parts/FinishBuild.js';
import { KitsNav } from '../parts/KitsNav.js';

/** One build: its parts from the shelf to the kit, finishing in portions, and what was done. */
export default function BuildPage() {
  const me = useMe();
  const { no } = useParams();
  const build = useQuery(buildQuery(no!));
  if (!build.data) return <Waiting error={build.error} />;
  return <Build key={no} build={build.data} me={me} />;
}

type Part = BuildView['lines'][number];
const units = (
  id: 'perKit' | 'wanted' | 'reserved' | 'atHand' | 'used' | 'scrapped',
  head: string,
): Column<Part> => ({
  id,
  head,
  right: true,
  width: 8,
  cell: l => l[id] || '',
});
const PARTS: Column<Part>[] = [
  {
    id: 'picture',
    head: 'Picture',
    width: 4,
    fixed: true,
    cell: l => <Picture name={l.picture} size={26} />,
  },
  {
    id: 'part',
    head: 'Part',
    width: 34,
    cell: l => (
      <>
        {l.name} <span className={`${textCss.code} ${textCss.quiet}`}>{l.sku}</span>
      </>
    ),
  },
  units('perKit', 'One kit'),
  units('wanted', 'Wanted'),
  units('reserved', 'Reserved'),
  units('atHand', 'At hand'),
  units('used', 'Used'),
  units('scrapped', 'Spoiled'),
  {
    id: 'places',
    head: 'Lies in',
    width: 16,
    cell: l => <span className={textCss.code}>{l.places.join(' ')}</span>,
  },
];

function Build({ build: b, me }: { build: BuildView; me: Person }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [stopping, setStopping] = useState(false);
  const desk = can(me, 'builds.plan');
  const list = useMutation({
    mutationFn: () => makeList([b.orderId!]),
    onSuccess: async ({ no }) => {
      await changed(client, 'builds', 'catalog', 'stock', 'orders');
      void navigate(`/pick/${no}`);
    },
  });
  const stop = useMutation({
    mutationFn: () => stopBuild(b.no),
    onSuccess: async () => {
      setStopping(false);
      await changed(client, 'builds', 'catalog', 'stock', 'orders');
    },
  });
  const open = b.state === 'open';
  return (
    <>
      <KitsNav />
      <Head
        tab={b.no}
        sign={<Picture name={b.picture} size={72} />}
        title={`${b.kind === 'unbuild' ? 'Taken apart' : 'Build'}: ${b.quantity} × ${b.name}`}
        about={
          <>
            <span className={textCss.code}>{b.no}</span> ·{' '}
            <Link to={`/kits/${encodeURIComponent(b.sku)}`}>{b.sku}</Link>
            {b.due && ` · due ${day(b.due)}`}
            {b.bench && ` · bench ${b.bench}`}
            {b.tote && ` · tote ${b.tote}`} · planned {moment(b.createdAt)}
            {b.person && ` by ${b.person}`}
          </>
        }
      >
        {open && b.orderStage === 'Clear' && can(me, 'lists.release') && (
          <Button variant="contained" disabled={list.isPending} onClick={() => list.mutate()}>
            Put its parts on a pick list
          </Button>
        )}
        {open && desk && (
          <Button variant="outlined" color="secondary" onClick={() => setStopping(true)}>
            {b.made > 0 ? 'End it here' : 'Give it up'}
          </Button>
        )}
      </Head>
      <ProblemNote error={list.error} />
      {stopping && (
        <Ask
          title={b.made > 0 ? `End ${b.no} with ${b.made} made?` : `Give ${b.no} up?`}
          act={b.made > 0 ? 'End it' : 'Give it up'}
          danger
          busy={stop.isPending}
          error={stop.error}
          onAct={() => stop.mutate()}
          onLeave={() => setStopping(false)}
        >
          Parts that were not used go back to their places, and what was reserved is free again.
        </Ask>
      )}
      {b.kind === 'make' && b.instruction && <p className={css.instruction}>{b.instruction}</p>}
      <div className={css.makes}>
        <div>
          <b>
            {b.made} of {b.quantity}
          </b>{' '}
          {b.kind === 'unbuild' ? 'taken apart' : 'made'}
        </div>
        {open && (
          <div>
            <b>{b.canMake}</b> can be made from what is at hand
          </div>
        )}
        <div>
          <b className={b.parts === 'parts short' ? textCss.risk : ''}>
            {open
              ? b.parts === 'parts short'
                ? '◆ parts short'
                : b.parts
              : b.state === 'done'
                ? '✓ finished'
                : '— given up'}
          </b>{' '}
          {open && b.orderId && <Link to={`/orders/${b.orderId}`}>where they stand</Link>}
        </div>
      </div>
      {open && can(me, 'builds.work') && b.lines.some(l => l.atHand > 0) && <FinishBuild build={b} />}
      <h2>Parts</h2>
      <DataTable
        name="build-part"
        label="Parts"
        arrangeable={false}
        rows={b.lines}
        idOf={l => l.sku}
        columns={PARTS}
        to={l => `/products/${encodeURIComponent(l.sku)}`}
      />
      {b.story.length > 0 && (
        <>
          <h2 style={{ marginTop: 20 }}>What was done</h2>
          <ul className={css.versions}>
            {b.story.map(s => (
              <li key={s.at + s.says}>
                {s.says}{' '}
                <span className={textCss.quiet}>
                  {moment(s.at)} {s.person}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
