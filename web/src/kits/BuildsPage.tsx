import { BuildRow, can, Person, ProposedBuildRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { get } from '../api.js';
import { day } from '../parts/format.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';
import { KitsNav } from './KitsNav.js';
import './kits.css';
import { PartsText } from './PartsText.js';
import { PlanBuild } from './PlanBuild.js';
import { TakeApart } from './TakeApart.js';

/** Builds: what should be made, what is being made, and what was. */
export default function BuildsPage({ me }: { me: Person }) {
  const builds = useQuery({ queryKey: ['builds'], queryFn: () => get(BuildRow.array(), 'builds') });
  const proposed = useQuery({
    queryKey: ['builds', 'proposed'],
    queryFn: () => get(ProposedBuildRow.array(), 'builds/proposed'),
  });
  const [plan, setPlan] = useState<ProposedBuildRow | null>(null);
  const [apart, setApart] = useState(false);
  const navigate = useNavigate();
  const desk = can(me, 'builds.plan');
  const open = builds.data?.filter(b => b.state === 'open') ?? [];
  const ended = builds.data?.filter(b => b.state !== 'open') ?? [];
  return (
    <>
      <KitsNav />
      <div className="headline">
        <div className="grow">
          <h1>Builds</h1>
          <p className="quiet">Kits made ahead. Their parts are reserved and picked like an order.</p>
        </div>
        {can(me, 'builds.work') && (
          <Button variant="outlined" onClick={() => setApart(true)}>
            Take kits apart
          </Button>
        )}
      </div>
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
      {open.length === 0 && (
        <p className="empty">Nothing is being built. Plan one from the proposals, or on the page of a kit.</p>
      )}
      {open.length > 0 && <BuildTable rows={open} />}
      <h2 style={{ marginTop: 28 }}>Should be made</h2>
      {proposed.data?.length === 0 && (
        <p className="empty">No open order lacks a kit, and each has its least stock.</p>
      )}
      {!!proposed.data?.length && (
        <table className="list">
          <thead>
            <tr>
              <th>Kit</th>
              <th className="num">Wanted</th>
              <th className="num">Can be made now</th>
              <th>Why</th>
              <th>Lacks for all</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {proposed.data.map(p => (
              <tr key={p.sku}>
                <td>
                  <Link className="plainlink" to={`/kits/${encodeURIComponent(p.sku)}`}>
                    <b>{p.name}</b>
                  </Link>
                </td>
                <td className="num">{p.quantity}</td>
                <td className={p.now < p.quantity ? 'num risk' : 'num'}>
                  {p.now < p.quantity && '▲ '}
                  {p.now}
                </td>
                <td>{p.why}</td>
                <td className="lacks">
                  <PartsText parts={p.limits} />
                </td>
                <td>
                  {desk && (
                    <Button size="small" onClick={() => setPlan(p)}>
                      Plan
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {ended.length > 0 && (
        <>
          <h2 style={{ marginTop: 28 }}>Lately</h2>
          <BuildTable rows={ended} />
        </>
      )}
    </>
  );
}

const ENDED = { done: '✓ finished', cancelled: '— given up', open: '' };

function BuildTable({ rows }: { rows: readonly BuildRow[] }) {
  return (
    <table className="list">
      <thead>
        <tr>
          <th>Build</th>
          <th>Kit</th>
          <th className="num">Made</th>
          <th>Parts</th>
          <th>Due</th>
          <th>Bench</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(b => (
          <tr key={b.no} className="opens">
            <td>
              <Link className="code" style={{ color: 'inherit' }} to={`/builds/${b.no}`}>
                {b.no}
              </Link>
            </td>
            <td>
              <div className="row" style={{ gap: 8 }}>
                <Picture name={b.picture} size={26} />
                {b.name}
              </div>
            </td>
            <td className="num">
              {b.kind === 'unbuild' ? `${b.quantity} taken apart` : `${b.made} of ${b.quantity}`}
            </td>
            <td className={b.parts === 'parts short' ? 'risk' : ''}>
              {b.state === 'open' ? `${b.parts === 'parts short' ? '◆ ' : ''}${b.parts}` : ENDED[b.state]}
            </td>
            <td>{day(b.due)}</td>
            <td className="code">{b.bench}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
