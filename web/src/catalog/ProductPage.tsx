import { can, Person, ProductRow } from '@auk/contract';
import { type FactValue, formatMoney, formatSize, formatWeight, parseSize, parseWeight } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { get, send } from '../api.js';
import { Field } from '../parts/Field.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';
import { Codes, Facts, History } from './ProductFacts.js';
import { ProductStageMark } from './ProductStageMark.js';
import './catalog.css';

/** One product: its facts (changed in place), codes, stock by place, recipe, listings, history. */
export default function ProductPage({ me }: { me: Person }) {
  const { sku } = useParams();
  const product = useQuery({
    queryKey: ['product', sku],
    queryFn: () => get(ProductRow, `products/${encodeURIComponent(sku!)}`),
  });
  if (!product.data) return <ProblemNote error={product.error} />;
  return <Product key={sku} product={product.data} me={me} />;
}

function Product({ product: p, me }: { product: ProductRow; me: Person }) {
  const editable = can(me, 'products.change');
  const client = useQueryClient();
  const [wrong, setWrong] = useState('');
  const path = `products/${encodeURIComponent(p.sku)}`;
  const act = useMutation({
    mutationFn: ([to, body]: [string, unknown]) => send(`${path}${to}`, body),
    onSettled: () => client.invalidateQueries(),
  });
  const save = (fields: Record<string, FactValue>) => {
    setWrong('');
    act.mutate(['', { version: p.version, fields }]);
  };
  const weight = (field: string) => (text: string) => {
    if (text === '') return save({ [field]: null });
    const read = parseWeight(text);
    if (read.ok) save({ [field]: read.value });
    else setWrong(read.problem);
  };
  const size = (text: string) => {
    if (text === '') return save({ length: null, width: null, height: null });
    const read = parseSize(text);
    if (read.ok) save({ ...read.value });
    else setWrong(read.problem);
  };
  return (
    <>
      <div className="headline">
        <label className="pictureup" htmlFor="picture" title={editable ? 'Give a picture' : ''}>
          <Picture name={p.picture} size={72} />
          <span className="visually-hidden">Picture</span>
        </label>
        {editable && (
          <input
            id="picture"
            type="file"
            accept="image/png,image/jpeg,image/webp"
            className="visually-hidden"
            onChange={e => e.target.files?.[0] && act.mutate(['/picture', e.target.files[0]])}
          />
        )}
        <div className="grow">
          <h1>
            <Field label="Name" value={p.name} readOnly={!editable} wide onSave={name => save({ name })} />
          </h1>
          <p className="quiet">
            <span className="code">{p.sku}</span> · {p.kind} · <ProductStageMark stage={p.stage} />
          </p>
        </div>
        {editable &&
          (p.stage === 'Retired' ? (
            <Button variant="outlined" onClick={() => save({ stage: 'Live' })}>
              Make it live
            </Button>
          ) : (
            <Button variant="outlined" onClick={() => save({ stage: 'Retired' })}>
              Retire
            </Button>
          ))}
      </div>
      {wrong && (
        <div className="problem" role="alert">
          {wrong}
        </div>
      )}
      <ProblemNote error={act.error} />
      {p.missing.length > 0 && (
        <ul className="missing">
          {p.missing.map(m => (
            <li key={m.fact} className={m.serious ? 'risk' : 'quiet'}>
              {m.serious ? '▲ ' : ''}
              {m.costs}
            </li>
          ))}
        </ul>
      )}
      <div className="three product">
        <div>
          {p.kind !== 'bundle' && (
            <p className="stockline">
              <b>{p.onHand}</b> on hand <b>{p.reserved}</b> reserved <b>{p.free}</b> free
              {p.openOrders > 0 && <span className="quiet"> · in {p.openOrders} open orders</span>}{' '}
              <Link to={`/products/${encodeURIComponent(p.sku)}/ledger`}>Ledger</Link> ·{' '}
              <a
                href={`/api/v1/products/${encodeURIComponent(p.sku)}/labels.pdf?form=thermal`}
                target="_blank"
                rel="noreferrer"
              >
                Label
              </a>
            </p>
          )}
          <h2>Where it lies</h2>
          {p.places.length === 0 && (
            <p className="empty">
              {p.kind === 'bundle'
                ? 'A bundle has no stock; its parts have.'
                : 'It lies nowhere. Stock comes in by receiving or by a count.'}
            </p>
          )}
          <ul className="plain">
            {p.places.map(x => (
              <li key={x.code}>
                <Link
                  className="code"
                  style={{ color: 'inherit' }}
                  to={`/places/${encodeURIComponent(x.code)}`}
                >
                  {x.code}
                </Link>{' '}
                <b>{x.onHand}</b> {x.listed > 0 && <span className="quiet">{x.listed} on lists</span>}
              </li>
            ))}
          </ul>
          {p.parts.length > 0 && (
            <>
              <h2>
                <Link to={`/kits/${encodeURIComponent(p.sku)}`}>Recipe</Link>
              </h2>
              <ul className="plain">
                {p.parts.map(x => (
                  <li key={x.sku}>
                    <b>{x.quantity} ×</b> {x.name}{' '}
                    <Link
                      className="code"
                      style={{ color: 'inherit' }}
                      to={`/products/${encodeURIComponent(x.sku)}`}
                    >
                      {x.sku}
                    </Link>
                  </li>
                ))}
              </ul>
            </>
          )}
          <h2>Listings</h2>
          {p.listings.length === 0 && <p className="empty">No channel sells it. Link one under Listings.</p>}
          <ul className="plain">
            {p.listings.map(l => (
              <li key={l.channel + l.channelSku}>
                {l.channel} <span className="code">{l.channelSku}</span>{' '}
                {l.units > 1 && `${l.units} of it a sale`}{' '}
                {l.priceMinor !== null && formatMoney(l.priceMinor, 'USD')}
              </li>
            ))}
          </ul>
          <History sku={p.sku} />
        </div>
        <div>
          <Codes product={p} can={editable} act={(to, body) => act.mutate([to, body])} />
          <h2>Measures</h2>
          <dl>
            <dt>Weight</dt>
            <dd>
              <Field
                label="Weight"
                placeholder="2 lb 3 oz"
                value={p.weightMg ? formatWeight(p.weightMg, 'imperial') : ''}
                readOnly={!editable}
                onSave={weight('weightMg')}
              />
            </dd>
            <dt>Packed</dt>
            <dd>
              <Field
                label="Packed weight"
                placeholder="as weighed packed"
                value={p.packedWeightMg ? formatWeight(p.packedWeightMg, 'imperial') : ''}
                readOnly={!editable}
                onSave={weight('packedWeightMg')}
              />
            </dd>
            <dt>Size</dt>
            <dd>
              <Field
                label="Packed size"
                placeholder="11x9x14 in"
                value={p.size ? formatSize(p.size, 'imperial') : ''}
                readOnly={!editable}
                onSave={size}
              />
            </dd>
            <dt>Hint</dt>
            <dd>
              <Field
                label="Hint for pickers"
                placeholder="what it is mistaken for"
                value={p.hint ?? ''}
                readOnly={!editable}
                wide
                onSave={v => save({ hint: v || null })}
              />
            </dd>
          </dl>
        </div>
        <Facts product={p} can={editable} save={save} say={setWrong} />
      </div>
    </>
  );
}
