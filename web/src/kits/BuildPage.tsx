import { BuildView, can, MadeNo, Person } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { get, post, send } from '../api.js';
import { Ask } from '../parts/ask.js';
import { day, moment } from '../parts/format.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';
import { FinishBuild } from './FinishBuild.js';
import { KitsNav } from './KitsNav.js';
import './kits.css';

/** One build: its parts from the shelf to the kit, finishing in portions, and what was done. */
export default function BuildPage({ me }: { me: Person }) {
  const { no } = useParams();
  const build = useQuery({ queryKey: ['build', no], queryFn: () => get(BuildView, `builds/${no}`) });
  if (!build.data) return <ProblemNote error={build.error} />;
  return <Build key={no} build={build.data} me={me} />;
}

function Build({ build: b, me }: { build: BuildView; me: Person }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [stopping, setStopping] = useState(false);
  const desk = can(me, 'builds.plan');
  const list = useMutation({
    mutationFn: () => post(MadeNo, 'picking/lists', { orderIds: [b.orderId] }),
    onSuccess: async ({ no }) => {
      await client.invalidateQueries();
      void navigate(`/pick/${no}`);
    },
  });
  const stop = useMutation({
    mutationFn: () => send(`builds/${b.no}/stop`),
    onSuccess: async () => {
      setStopping(false);
      await client.invalidateQueries();
    },
  });
  const open = b.state === 'open';
  return (
    <>
      <KitsNav />
      <div className="headline">
        <Picture name={b.picture} size={72} />
        <div className="grow">
          <h1>
            {b.kind === 'unbuild' ? 'Taken apart' : 'Build'}: {b.quantity} × {b.name}
          </h1>
          <p className="quiet">
            <span className="code">{b.no}</span> ·{' '}
            <Link to={`/kits/${encodeURIComponent(b.sku)}`}>{b.sku}</Link>
            {b.due && ` · due ${day(b.due)}`}
            {b.bench && ` · bench ${b.bench}`}
            {b.tote && ` · tote ${b.tote}`} · planned {moment(b.createdAt)}
            {b.person && ` by ${b.person}`}
          </p>
        </div>
        {open && b.orderStage === 'Clear' && can(me, 'lists.release') && (
          <Button variant="contained" disabled={list.isPending} onClick={() => list.mutate()}>
            Put its parts on a pick list
          </Button>
        )}
        {open && desk && (
          <Button variant="outlined" onClick={() => setStopping(true)}>
            {b.made > 0 ? 'End it here' : 'Give it up'}
          </Button>
        )}
      </div>
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
      {b.kind === 'make' && b.instruction && <p className="instruction">{b.instruction}</p>}
      <div className="makes">
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
          <b className={b.parts === 'parts short' ? 'risk' : ''}>
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
      <table className="list parts-table">
        <thead>
          <tr>
            <th>Part</th>
            <th className="num">One kit</th>
            <th className="num">Wanted</th>
            <th className="num">Reserved</th>
            <th className="num">At hand</th>
            <th className="num">Used</th>
            <th className="num">Spoiled</th>
            <th>Lies in</th>
          </tr>
        </thead>
        <tbody>
          {b.lines.map(l => (
            <tr key={l.sku}>
              <td>
                <div className="row" style={{ gap: 8 }}>
                  <Picture name={l.picture} size={28} />
                  <span>
                    {l.name} <span className="code quiet">{l.sku}</span>
                  </span>
                </div>
              </td>
              <td className="num">{l.perKit}</td>
              <td className="num">{l.wanted}</td>
              <td className="num">{l.reserved || ''}</td>
              <td className="num">
                <b>{l.atHand || ''}</b>
              </td>
              <td className="num">{l.used || ''}</td>
              <td className="num">{l.scrapped || ''}</td>
              <td className="code">{l.places.join(' ')}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {b.story.length > 0 && (
        <>
          <h2 style={{ marginTop: 20 }}>What was done</h2>
          <ul className="versions">
            {b.story.map(s => (
              <li key={s.at + s.says}>
                {s.says}{' '}
                <span className="quiet">
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
