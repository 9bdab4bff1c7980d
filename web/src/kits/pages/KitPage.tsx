import { can, KitView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { changed } from '../../asked.js';
import { Choice, type Options } from '../../parts/Choice.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import { kitQuery, setKitPolicy } from '../api.js';
import css from '../kits.module.css';
import { KitsNav } from '../parts/KitsNav.js';
import { Missing } from '../parts/Missing.js';
import { OlderOrders } from '../parts/OlderOrders.js';
import { PlanBuild } from '../parts/PlanBuild.js';
import { Recipe, Version } from '../parts/Recipe.js';
import { RecipeEdit } from '../parts/RecipeEdit.js';

/** One kit or bundle: how many there can be, what is missing for more, its recipe in versions, and the orders that follow an older one. */
export default function KitPage() {
  const me = useMe();
  const { sku } = useParams();
  const kit = useQuery(kitQuery(sku!));
  if (!kit.data) return <Waiting error={kit.error} />;
  return <Kit key={sku} kit={kit.data} desk={can(me, 'recipes.change')} />;
}

const POLICIES: Options<KitView['kitPolicy']> = [
  ['stock', 'its own stock only'],
  ['stock then parts', 'its own stock, and the rest from its parts'],
];

function Kit({ kit: k, desk }: { kit: KitView; desk: boolean }) {
  const [editing, setEditing] = useState(k.versions.length === 0);
  const [planning, setPlanning] = useState(false);
  const client = useQueryClient();
  const navigate = useNavigate();
  const policy = useMutation({
    mutationFn: (kitPolicy: string) => setKitPolicy(k.sku, kitPolicy),
    onSettled: () => changed(client, 'builds', 'catalog', 'stock', 'orders'),
  });
  return (
    <>
      <KitsNav />
      <Head
        tab={k.sku}
        sign={<Picture name={k.picture} size={64} />}
        title={k.name}
        about={
          <>
            <span className={textCss.code}>{k.sku}</span> · {k.kind} ·{' '}
            <Link to={`/products/${encodeURIComponent(k.sku)}`}>product</Link> ·{' '}
            <Link to={`/products/${encodeURIComponent(k.sku)}/ledger`}>ledger</Link>
          </>
        }
      >
        {desk && k.kind === 'kit' && (
          <Button variant="contained" onClick={() => setPlanning(true)}>
            Plan a build
          </Button>
        )}
      </Head>
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
      <div className={css.makes}>
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
      <div className={pageCss.withside}>
        <div>
          <div className={pageCss.row}>
            <h2 className={pageCss.grow}>Recipe {k.versions[0] && `· version ${k.versions[0].version}`}</h2>
            {desk && !editing && (
              <Button size="small" onClick={() => setEditing(true)}>
                Change it
              </Button>
            )}
          </div>
          {k.problem && <p className={textCss.stop}>▲ {k.problem}</p>}
          {editing ? <RecipeEdit kit={k} leave={() => setEditing(false)} /> : <Recipe kit={k} />}
          {k.kind === 'kit' && (
            <div style={{ margin: '12px 0', maxWidth: 420 }}>
              <Choice
                label="Where orders take it from"
                value={k.kitPolicy}
                disabled={!desk}
                options={POLICIES}
                onChoose={p => policy.mutate(p)}
              />
            </div>
          )}
          <OlderOrders kit={k} desk={desk} />
          <h2 style={{ marginTop: 20 }}>Versions</h2>
          <ul className={css.versions}>
            {k.versions.map(v => (
              <Version key={v.version} version={v} />
            ))}
          </ul>
        </div>
        <aside>
          <Missing sku={k.sku} />
          {k.usedIn.length > 0 && (
            <div className={pageCss.side} style={{ marginTop: 24 }}>
              <h2>Part of</h2>
              <ul className={textCss.plain}>
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
