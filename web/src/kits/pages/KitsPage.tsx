import { can, KitRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import { ProblemNote } from '../../parts/problem.js';
import { SearchField } from '../../parts/SearchField.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useQuestion } from '../../parts/useQuestion.js';
import { useMe } from '../../people/useMe.js';
import { kitsQuery } from '../api.js';
import css from '../kits.module.css';
import { KitsNav } from '../parts/KitsNav.js';
import { PartsText } from '../parts/PartsText.js';
import { PromiseBox } from '../parts/PromiseBox.js';

const COLUMNS: Column<KitRow>[] = [
  {
    id: 'picture',
    head: 'Picture',
    width: 5,
    fixed: true,
    cell: k => <Picture name={k.picture} size={30} />,
  },
  {
    id: 'kit',
    head: 'Kit or bundle',
    width: 26,
    cell: k => (
      <>
        <Link className={textCss.name} to={`/kits/${encodeURIComponent(k.sku)}`}>
          <b>{k.name}</b>
        </Link>
        <div className={textCss.quiet}>
          <span className={textCss.code}>{k.sku}</span> · {k.kind}
        </div>
      </>
    ),
  },
  {
    id: 'own',
    head: 'In stock',
    right: true,
    width: 11,
    cell: k => (
      <>
        {k.kind === 'bundle' ? <span className={textCss.quiet}>none of its own</span> : <b>{k.own}</b>}
        {k.kind === 'kit' && k.own < k.least && (
          <div className={`${textCss.risk} ${textCss.small}`}>▲ least {k.least}</div>
        )}
        {k.building > 0 && (
          <div className={`${textCss.quiet} ${textCss.small}`}>{k.building} being built</div>
        )}
      </>
    ),
  },
  { id: 'makeable', head: 'Makeable', right: true, cell: k => k.makeable },
  {
    id: 'lacks',
    head: 'One more lacks',
    width: 26,
    cell: k => (
      <div className={css.lacks}>
        {k.problem ? <span className={textCss.stop}>▲ {k.problem}</span> : <PartsText parts={k.limits} />}
      </div>
    ),
  },
  {
    id: 'left',
    head: 'Left to sell',
    right: true,
    cell: k => (
      <>
        <b className={k.leftToSell === 0 ? textCss.stop : ''}>{k.leftToSell}</b>
        {k.leftToSell === 0 && <div className={`${textCss.stop} ${textCss.small}`}>sold out</div>}
      </>
    ),
  },
  { id: 'open', head: 'Open orders', right: true, cell: k => k.openOrders || '' },
];

/** Kits and bundles: what there is of each, what can be made, what limits it, and what is left to sell. */
export default function KitsPage() {
  const { part, set } = useQuestion();
  const kits = useQuery(kitsQuery);
  const words = part('words').toLowerCase();
  const rows = (kits.data ?? []).filter(
    k => k.name.toLowerCase().includes(words) || k.sku.toLowerCase().includes(words),
  );
  const desk = can(useMe(), 'recipes.change');
  return (
    <>
      <KitsNav />
      <Head
        title="Kits and bundles"
        about="A kit is made ahead and lies in stock; a bundle is gathered when it is picked. “Left to sell” counts what remains after all open orders are served."
      >
        {desk && (
          <Button component={Link} to="/bring-in?kind=recipes" variant="outlined" color="secondary">
            Bring in recipes
          </Button>
        )}
      </Head>
      <ProblemNote error={kits.error} />
      <div className={pageCss.withside}>
        <div>
          <DataTable
            filters={
              <SearchField label="SKU or name" value={part('words')} onAsk={words => set('words', words)} />
            }
            name="kit"
            label="Kits and bundles"
            rows={rows}
            idOf={k => k.sku}
            columns={COLUMNS}
            to={k => `/kits/${encodeURIComponent(k.sku)}`}
            empty={
              kits.data?.length === 0
                ? 'No product is a kit or bundle yet. Give one the kind “kit” or “bundle”, or bring in recipes.'
                : kits.isSuccess && 'No kit or bundle is called so.'
            }
          />
        </div>
        <aside>
          <PromiseBox kits={kits.data ?? []} />
        </aside>
      </div>
    </>
  );
}
