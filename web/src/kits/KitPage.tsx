import { can, KitView, MissingAnswer, Person, RecipeVersion } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { get, send } from '../api.js';
import { moment } from '../parts/format.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';
import { KitsNav } from './KitsNav.js';
import './kits.css';
import { OlderOrders } from './OlderOrders.js';
import { PartsText } from './PartsText.js';
import { PlanBuild } from './PlanBuild.js';
import { RecipeEdit } from './RecipeEdit.js';

/** One kit or bundle: how many there can be, what is missing for more, its recipe in versions, and the orders that follow an older one. */
export default function KitPage({ me }: { me: Person }) {
  const { sku } = useParams();
  const kit = useQuery({
    queryKey: ['kit', sku],
    queryFn: () => get(KitView, `kits/${encodeURIComponent(sku!)}`),
  });
  if (!kit.data) return <ProblemNote error={kit.error} />;
  return <Kit key={sku} kit={kit.data} desk={can(me, 'recipes.change')} />;
}

function Kit({ kit: k, desk }: { kit: KitView; desk: boolean }) {
  const [editing, setEditing] = useState(k.versions.length === 0);
  const [planning, setPlanning] = useState(false);
  const client = useQueryClient();
  const navigate = useNavigate();
  const policy = useMutation({
    mutationFn: (kitPolicy: string) => send(`kits/${encodeURIComponent(k.sku)}/policy`, { kitPolicy }),
    onSettled: () => client.invalidateQueries(),
  });
  return (
    <>
      <KitsNav />
      <div className="headline">
        <Picture name={k.picture} size={64} />
        <div className="grow">
          <h1>{k.name}</h1>
          <p className="quiet">
            <span className="code">{k.sku}</span> · {k.kind} ·{' '}
            <Link to={`/products/${encodeURIComponent(k.sku)}`}>product</Link> ·{' '}
            <Link to={`/products/${encodeURIComponent(k.sku)}/ledger`}>ledger</Link>
          </p>
        </div>
        {desk && k.kind === 'kit' && (
          <Button variant="contained" onClick={() => setPlanning(true)}>
            Plan a build
          </Button>
        )}
      </div>
      <ProblemNote error={policy.error} />
      {planning && (
        <PlanBuild
          sku={k.sku}
          name={k.name}
          suggested={k.makeable}
          leave={() => setPlanning(false)}
          planned={no => void navigate(`/builds/${no}`)}
        />
      )}
      <div className="makes">
        {k.kind === 'kit' && (
          <div>
            <b>{k.own}</b> in stock, free
          </div>
        )}
        <div>
          <b>{k.makeable}</b> makeable from free parts
        </div>
        <div>
          <b>{k.leftToSell}</b> left to sell after open orders
        </div>
        {k.building > 0 && (
          <div>
            <b>{k.building}</b> being built
          </div>
        )}
      </div>
      <div className="withside">
        <div>
          <div className="row">
            <h2 className="grow">Recipe {k.versions[0] && `· version ${k.versions[0].version}`}</h2>
            {desk && !editing && (
              <Button size="small" onClick={() => setEditing(true)}>
                Change it
              </Button>
            )}
          </div>
          {k.problem && <p className="stop">▲ {k.problem}</p>}
          {editing ? (
            <RecipeEdit kit={k} leave={() => setEditing(false)} />
          ) : (
            <table className="list parts-table">
              <tbody>
                {k.versions[0]?.parts.map(p => (
                  <tr key={p.sku}>
                    <td className="num" style={{ width: 60 }}>
                      <b>{p.quantity}</b> ×
                    </td>
                    <td>
                      <Link to={`/products/${encodeURIComponent(p.sku)}`}>{p.name}</Link>
                    </td>
                    <td className="code">{p.sku}</td>
                    <td className="num">{k.frees[p.sku] ?? 0} free</td>
                    <td className="risk">
                      {k.limits.some(l => l.sku === p.sku) && '▲ limits how many can be made'}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {k.kind === 'kit' && (
            <p style={{ margin: '12px 0' }}>
              Orders take it from{' '}
              <select
                aria-label="Where orders take it from"
                value={k.kitPolicy}
                disabled={!desk}
                onChange={e => policy.mutate(e.target.value)}
              >
                <option value="stock">its own stock only</option>
                <option value="stock then parts">its own stock, and the rest from its parts</option>
              </select>
            </p>
          )}
          <OlderOrders kit={k} desk={desk} />
          <h2 style={{ marginTop: 20 }}>Versions</h2>
          <ul className="versions">
            {k.versions.map(v => (
              <Version key={v.version} version={v} />
            ))}
          </ul>
        </div>
        <aside>
          <Missing sku={k.sku} />
          {k.usedIn.length > 0 && (
            <div className="promise" style={{ marginTop: 24 }}>
              <h2>Part of</h2>
              <ul className="plain">
                {k.usedIn.map(u => (
                  <li key={u.sku}>
                    {u.quantity} × in <Link to={`/kits/${encodeURIComponent(u.sku)}`}>{u.name}</Link>
                  </li>
                ))}
              </ul>
            </div>
          )}
        </aside>
      </div>
    </>
  );
}

function Version({ version: v }: { version: RecipeVersion }) {
  return (
    <li>
      <b>Version {v.version}</b> · {moment(v.at)} · {v.person ?? 'Auk'}
      {v.note && <span> · “{v.note}”</span>}
      <div className="quiet">
        {v.changes.length === 0
          ? v.parts.map(p => `${p.quantity} × ${p.name}`).join(', ')
          : v.changes
              .map(c =>
                c.before === 0
                  ? `${c.after} × ${c.sku} added`
                  : c.after === 0
                    ? `${c.before} × ${c.sku} taken out`
                    : `${c.sku}: ${c.before} → ${c.after}`,
              )
              .join(', ')}
      </div>
    </li>
  );
}

/** What is missing to have so many. */
function Missing({ sku }: { sku: string }) {
  const [wanted, setWanted] = useState('');
  const n = Number(wanted);
  const answer = useQuery({
    queryKey: ['kit', sku, 'missing', n],
    queryFn: () => get(MissingAnswer, `kits/${encodeURIComponent(sku)}/missing?quantity=${n}`),
    enabled: n > 0,
  });
  return (
    <div className="promise">
      <h2>What is missing for more?</h2>
      <label className="quiet" htmlFor="wanted">
        To have this many in all
      </label>
      <input
        id="wanted"
        inputMode="numeric"
        value={wanted}
        onChange={e => setWanted(e.target.value.replace(/\D/g, '').slice(0, 6))}
      />
      <ProblemNote error={answer.error} />
      {n > 0 && answer.data?.quantity === n && (
        <p className={answer.data.missing.length === 0 ? 'good' : 'risk'} role="status">
          {answer.data.missing.length === 0 ? (
            '✓ Nothing: they can be had now.'
          ) : (
            <PartsText parts={answer.data.missing} />
          )}
        </p>
      )}
    </div>
  );
}
