import { can, KitRow, Person } from '@auk/contract';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { get } from '../api.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';
import { useQuestion } from '../parts/useQuestion.js';
import { KitsNav } from './KitsNav.js';
import './kits.css';
import { PartsText } from './PartsText.js';
import { PromiseBox } from './PromiseBox.js';

/** Kits and bundles: what there is of each, what can be made, what limits it, and what is left to sell. */
export default function KitsPage({ me }: { me: Person }) {
  const { part, set } = useQuestion();
  const kits = useQuery({ queryKey: ['kits'], queryFn: () => get(KitRow.array(), 'kits') });
  const words = part('words').toLowerCase();
  const rows = (kits.data ?? []).filter(
    k => k.name.toLowerCase().includes(words) || k.sku.toLowerCase().includes(words),
  );
  const desk = can(me, 'recipes.change');
  return (
    <>
      <KitsNav />
      <div className="headline">
        <div className="grow">
          <h1>Kits and bundles</h1>
          <p className="quiet">
            A kit is made ahead and lies in stock; a bundle is gathered when it is picked. “Left to sell”
            counts what remains after all open orders are served.
          </p>
        </div>
        <TextField label="SKU or name" value={part('words')} onChange={e => set('words', e.target.value)} />
        {desk && (
          <Button component={Link} to="/bring-in?kind=recipes" variant="outlined">
            Bring in recipes
          </Button>
        )}
      </div>
      <ProblemNote error={kits.error} />
      <div className="withside">
        <table className="list">
          <thead>
            <tr>
              <th>Kit or bundle</th>
              <th className="num">In stock</th>
              <th className="num">Makeable</th>
              <th>One more lacks</th>
              <th className="num">Left to sell</th>
              <th className="num">Open orders</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(k => (
              <Row key={k.sku} kit={k} />
            ))}
          </tbody>
        </table>
        <aside>
          <PromiseBox kits={kits.data ?? []} />
        </aside>
      </div>
      {kits.data?.length === 0 && (
        <p className="empty">
          No product is a kit or bundle yet. Give one the kind “kit” or “bundle”, or bring in recipes.
        </p>
      )}
    </>
  );
}

function Row({ kit: k }: { kit: KitRow }) {
  const under = k.kind === 'kit' && k.own < k.least;
  return (
    <tr className="opens">
      <td>
        <div className="row" style={{ gap: 10 }}>
          <Picture name={k.picture} size={32} />
          <div>
            <Link className="plainlink" to={`/kits/${encodeURIComponent(k.sku)}`}>
              <b>{k.name}</b>
            </Link>
            <div className="quiet">
              <span className="code">{k.sku}</span> · {k.kind}
            </div>
          </div>
        </div>
      </td>
      <td className="num">
        {k.kind === 'bundle' ? <span className="quiet">none of its own</span> : <b>{k.own}</b>}
        {under && <div className="risk small">▲ least {k.least}</div>}
        {k.building > 0 && <div className="quiet small">{k.building} being built</div>}
      </td>
      <td className="num">{k.makeable}</td>
      <td className="lacks">
        {k.problem ? <span className="stop">▲ {k.problem}</span> : <PartsText parts={k.limits} />}
      </td>
      <td className="num">
        <b className={k.leftToSell === 0 ? 'stop' : ''}>{k.leftToSell}</b>
        {k.leftToSell === 0 && <div className="stop small">sold out</div>}
      </td>
      <td className="num">{k.openOrders || ''}</td>
    </tr>
  );
}
