import { can, Person, ProductRow } from '@auk/contract';
import { type FactValue, formatMoney, parseSize, parseWeight } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ComponentProps } from 'react';
import { Link, useParams } from 'react-router';
import { changed } from '../../asked.js';
import { AtCenters } from '../../elsewhere/parts/AtCenters.js';
import { Field } from '../../parts/Field.js';
import { size, weight } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import { useCurrency } from '../../setup/useCurrency.js';
import { actOnProduct, editProduct, productQuery } from '../api.js';
import css from '../catalog.module.css';
import { GivePicture } from '../parts/GivePicture.js';
import { Codes, Facts, History } from '../parts/ProductFacts.js';
import { ProductStageMark } from '../parts/ProductStageMark.js';

/** One product: its facts (changed in place), codes, stock by place, recipe, listings, history. */
export default function ProductPage() {
  const me = useMe();
  const { sku } = useParams();
  const product = useQuery(productQuery(sku!));
  if (!product.data) return <Waiting error={product.error} />;
  return <Product key={sku} product={product.data} me={me} />;
}

/** What changes a product: its fields, one edit after another, and acts of other kinds. */
function useProductActs(p: ProductRow) {
  const client = useQueryClient();
  const onSettled = () => changed(client, 'catalog', 'stock', 'orders');
  // One after another: the second of two quick edits goes with the version that the first one made.
  const scope = { id: `edit of product ${p.sku}` };
  const act = useMutation({
    scope,
    mutationFn: ([to, body]: [string, unknown]) => actOnProduct(p.sku, to, body),
    onSettled,
  });
  const edit = useMutation({
    scope,
    mutationFn: (fields: Record<string, FactValue>) =>
      editProduct(p.sku, {
        version: client.getQueryData(productQuery(p.sku).queryKey)?.version ?? p.version,
        fields,
      }),
    onSettled,
  });
  return {
    act: (to: string, body: unknown) => act.mutate([to, body]),
    save: (fields: Record<string, FactValue>) => edit.mutate(fields),
    errors: [edit.error, act.error],
  };
}

function Product({ product: p, me }: { product: ProductRow; me: Person }) {
  const editable = can(me, 'products.change');
  const { act, save, errors } = useProductActs(p);
  return (
    <>
      <Head
        tab={p.sku}
        sign={<GivePicture product={p} can={editable} give={file => act('/picture', file)} />}
        title={
          <Field
            title
            label="Name"
            value={p.name}
            readOnly={!editable}
            onSave={name => void save({ name })}
          />
        }
        about={
          <>
            <span className={textCss.code}>{p.sku}</span> · {p.kind} · <ProductStageMark stage={p.stage} />
          </>
        }
      >
        {editable && (
          <Button
            variant="outlined"
            color="secondary"
            onClick={() => save({ stage: p.stage === 'Retired' ? 'Live' : 'Retired' })}
          >
            {p.stage === 'Retired' ? 'Make it live' : 'Retire'}
          </Button>
        )}
      </Head>
      {errors.map((error, i) => (
        <ProblemNote key={i} error={error} />
      ))}
      <Missing product={p} />
      <div className={css.product}>
        <div>
          <Stocked product={p} />
          <Recipe product={p} />
          <Listings product={p} />
          <History sku={p.sku} />
        </div>
        <div>
          <Codes product={p} can={editable} act={act} />
          <Measures product={p} can={editable} save={save} />
        </div>
        <Facts product={p} can={editable} save={save} />
      </div>
    </>
  );
}

/** What nobody knows of it yet, and what that costs. */
function Missing({ product: p }: { product: ProductRow }) {
  if (p.missing.length === 0) return null;
  return (
    <ul className={css.missing}>
      {p.missing.map(m => (
        <li key={m.fact} className={m.serious ? textCss.risk : textCss.quiet}>
          {m.serious ? '▲ ' : ''}
          {m.costs}
        </li>
      ))}
    </ul>
  );
}

/** How many there are, and where they lie. */
function Stocked({ product: p }: { product: ProductRow }) {
  const stocked = p.kind !== 'bundle';
  const path = encodeURIComponent(p.sku);
  return (
    <>
      {stocked && (
        <p className={css.stockline}>
          <b>{p.onHand}</b> on hand <b>{p.reserved}</b> reserved <b>{p.free}</b> free
          {p.openOrders > 0 && <span className={textCss.quiet}> · in {p.openOrders} open orders</span>}{' '}
          <span className={css.links}>
            <Link to={`/products/${path}/ledger`}>Ledger</Link> ·{' '}
            <a href={`/api/v1/products/${path}/labels.pdf?form=thermal`} target="_blank" rel="noreferrer">
              Label
            </a>
          </span>
        </p>
      )}
      <h2>Where it lies</h2>
      {p.places.length === 0 && (
        <p className={textCss.empty}>
          {stocked
            ? 'It lies nowhere. Stock comes in by receiving or by a count.'
            : 'A bundle has no stock; its parts have.'}
        </p>
      )}
      <ul className={css.plain}>
        {p.places.map(x => (
          <li key={x.code}>
            <PlainCode to={`/places/${encodeURIComponent(x.code)}`} code={x.code} /> <b>{x.onHand}</b>{' '}
            {x.listed > 0 && <span className={textCss.quiet}>{x.listed} on lists</span>}
          </li>
        ))}
      </ul>
      {stocked && <AtCenters sku={p.sku} />}
    </>
  );
}

/** A code that leads to its page and looks like the text around it. */
function PlainCode({ to, code }: { to: string; code: string }) {
  return (
    <Link className={textCss.code} style={{ color: 'inherit' }} to={to}>
      {code}
    </Link>
  );
}

/** What it is made of. */
function Recipe({ product: p }: { product: ProductRow }) {
  if (p.parts.length === 0) return null;
  return (
    <>
      <h2>
        <Link to={`/kits/${encodeURIComponent(p.sku)}`}>Recipe</Link>
      </h2>
      <ul className={css.plain}>
        {p.parts.map(x => (
          <li key={x.sku}>
            <b>{x.quantity} ×</b> {x.name}{' '}
            <PlainCode to={`/products/${encodeURIComponent(x.sku)}`} code={x.sku} />
          </li>
        ))}
      </ul>
    </>
  );
}

/** By which names channels sell it. */
function Listings({ product: p }: { product: ProductRow }) {
  const currency = useCurrency();
  return (
    <>
      <h2>Listings</h2>
      {p.listings.length === 0 && (
        <p className={textCss.empty}>No channel sells it. Link one under Listings.</p>
      )}
      <ul className={css.plain}>
        {p.listings.map(l => (
          <li key={l.channel + l.channelSku}>
            {l.channel} <span className={textCss.code}>{l.channelSku}</span>{' '}
            {l.units > 1 && `${l.units} of it a sale`}{' '}
            {l.priceMinor !== null && formatMoney(l.priceMinor, currency)}
          </li>
        ))}
      </ul>
    </>
  );
}

interface MeasuresProps {
  product: ProductRow;
  can: boolean;
  save: (fields: Record<string, FactValue>) => void;
}

/** Weights and sizes, changed in place; what cannot be read is told where it was typed. */
function Measures({ product: p, can: editable, save }: MeasuresProps) {
  const weighed = (field: string) => (text: string) => {
    const read = text === '' ? null : parseWeight(text);
    if (read && !read.ok) return read.problem;
    save({ [field]: read === null ? null : read.value });
  };
  const sized = (text: string) => {
    const read = text === '' ? null : parseSize(text);
    if (read && !read.ok) return read.problem;
    save(read ? { ...read.value } : { length: null, width: null, height: null });
  };
  return (
    <>
      <h2>Measures</h2>
      <dl className={pageCss.facts}>
        <Measure
          name="Weight"
          label="Weight"
          placeholder="2 lb 3 oz"
          value={p.weightMg ? weight(p.weightMg) : ''}
          readOnly={!editable}
          onSave={weighed('weightMg')}
        />
        <Measure
          name="Packed"
          label="Packed weight"
          placeholder="as weighed packed"
          value={p.packedWeightMg ? weight(p.packedWeightMg) : ''}
          readOnly={!editable}
          onSave={weighed('packedWeightMg')}
        />
        <Measure
          name="Size"
          label="Packed size"
          placeholder="11x9x14 in"
          value={p.size ? size(p.size) : ''}
          readOnly={!editable}
          onSave={sized}
        />
        <Measure
          name="Hint"
          label="Hint for pickers"
          placeholder="what it is mistaken for"
          value={p.hint ?? ''}
          readOnly={!editable}
          onSave={v => void save({ hint: v || null })}
        />
      </dl>
    </>
  );
}

/** A measure that is changed in place, after its name. */
function Measure({ name, ...field }: { name: string } & ComponentProps<typeof Field>) {
  return (
    <>
      <dt>{name}</dt>
      <dd>
        <Field {...field} />
      </dd>
    </>
  );
}
