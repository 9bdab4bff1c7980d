import { can, Person, ProductRow, pageOf } from '@auk/contract';
import { count, type FactValue, formatSize, formatWeight, PRODUCT_FACTS, parseWeight } from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { get, send } from '../api.js';
import { ExportLinks } from '../imports/ExportLinks.js';
import { Ask } from '../parts/ask.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';
import { useQuestion } from '../parts/useQuestion.js';
import { ProductStageMark } from './ProductStageMark.js';
import './catalog.css';

/** Products with their stock, what is missing of them, and one change in many at once. */
export default function ProductsPage({ me }: { me: Person }) {
  const { question, part, set } = useQuestion();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [making, setMaking] = useState(false);
  const products = useQuery({
    queryKey: ['products', 'list', question],
    queryFn: () => get(pageOf(ProductRow), `products?${question}`),
  });
  const rows = products.data?.rows ?? [];
  const desk = can(me, 'products.change');
  const toggle = (sku: string) => {
    const next = new Set(chosen);
    if (!next.delete(sku)) next.add(sku);
    setChosen(next);
  };
  return (
    <>
      <div className="headline">
        <h1 className="grow">
          Products <span className="quiet">{count(rows.length, 'product')}</span>
        </h1>
        <TextField
          label="Name, SKU or code"
          value={part('words')}
          onChange={e => set('words', e.target.value)}
        />
        <Button component={Link} to="/products/listings" variant="outlined">
          Listings
        </Button>
        {desk && (
          <>
            <Button component={Link} to="/bring-in?kind=products" variant="outlined">
              Bring in
            </Button>
            <Button variant="contained" onClick={() => setMaking(true)}>
              New product
            </Button>
          </>
        )}
      </div>
      <div className="tools">
        <select aria-label="Stage" value={part('stage')} onChange={e => set('stage', e.target.value)}>
          <option value="">every stage</option>
          {['Unproven', 'Live', 'Retired'].map(s => (
            <option key={s}>{s}</option>
          ))}
        </select>
        <label>
          <input
            type="checkbox"
            checked={part('missing') === 'yes'}
            onChange={e => set('missing', e.target.checked ? 'yes' : '')}
          />{' '}
          only where something is missing
        </label>
        <ExportLinks what="products" question={question} />
      </div>
      {desk && chosen.size > 0 && <ChangeMany skus={[...chosen]} done={() => setChosen(new Set())} />}
      <ProblemNote error={products.error} />
      {products.data?.rows.length === 0 && (
        <p className="empty">
          No product is like this. Clear the field to see all, or bring products in from a file.
        </p>
      )}
      <table className="list">
        <thead>
          <tr>
            {desk && (
              <th>
                <input
                  type="checkbox"
                  aria-label="Choose all"
                  checked={rows.length > 0 && rows.every(r => chosen.has(r.sku))}
                  onChange={e => setChosen(new Set(e.target.checked ? rows.map(r => r.sku) : []))}
                />
              </th>
            )}
            <th />
            <th>SKU</th>
            <th>Name</th>
            <th>Stage</th>
            <th>Missing</th>
            <th>Places</th>
            <th className="num">On hand</th>
            <th className="num">Reserved</th>
            <th className="num">Free</th>
            <th className="num">Weight</th>
            <th className="num">Size</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(p => (
            <tr key={p.id} className={chosen.has(p.sku) ? 'chosen' : ''}>
              {desk && (
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Choose ${p.sku}`}
                    checked={chosen.has(p.sku)}
                    onChange={() => toggle(p.sku)}
                  />
                </td>
              )}
              <td style={{ width: 40 }}>
                <Picture name={p.picture} size={28} />
              </td>
              <td>
                <Link
                  className="code"
                  style={{ color: 'inherit' }}
                  to={`/products/${encodeURIComponent(p.sku)}`}
                >
                  {p.sku}
                </Link>
              </td>
              <td>
                {p.name}
                {p.kind !== 'piece' && <span className="quiet"> {p.kind}</span>}
              </td>
              <td>
                <ProductStageMark stage={p.stage} />
              </td>
              <td className="small">
                {p.missing.map(m => (
                  <span key={m.fact} title={m.costs} className={m.serious ? 'risk' : 'quiet'}>
                    {m.serious ? '▲ ' : ''}
                    {m.fact}{' '}
                  </span>
                ))}
              </td>
              <td className="code small">
                {p.places
                  .slice(0, 2)
                  .map(x => x.code)
                  .join(' ')}
              </td>
              <td className="num">{p.kind === 'bundle' ? '' : p.onHand}</td>
              <td className="num">{p.kind === 'bundle' ? '' : p.reserved}</td>
              <td className="num">{p.kind === 'bundle' ? '' : p.free}</td>
              <td className="num">{p.weightMg ? formatWeight(p.weightMg, 'imperial') : ''}</td>
              <td className="num small">{p.size ? formatSize(p.size, 'imperial') : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {making && <NewProduct leave={() => setMaking(false)} />}
    </>
  );
}

/** Facts that are changed in many products at once. */
const MANY = [
  { key: 'stage', words: 'stage', kind: 'stage' as const },
  { key: 'weightMg', words: 'weight', kind: 'weight' as const },
  ...PRODUCT_FACTS,
];

function ChangeMany({ skus, done }: { skus: string[]; done: () => void }) {
  const [field, setField] = useState('stage');
  const [text, setText] = useState('Live');
  const [wrong, setWrong] = useState('');
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: (value: FactValue) => send('products/edit', { skus, fields: { [field]: value } }),
    onSuccess: () => {
      void client.invalidateQueries();
      done();
    },
  });
  const kind = MANY.find(f => f.key === field)!.kind;
  const apply = () => {
    setWrong('');
    if (kind === 'flag') return save.mutate(text === 'yes');
    if (kind === 'weight') {
      const read = parseWeight(text);
      return read.ok ? save.mutate(read.value) : setWrong(read.problem);
    }
    if (kind === 'count' || kind === 'money') {
      const n = Number(text);
      if (text === '' || !Number.isFinite(n) || n < 0) return setWrong('Type a number.');
      return save.mutate(kind === 'money' ? Math.round(n * 100) : n);
    }
    save.mutate(text === '' ? null : text);
  };
  return (
    <form
      className="bulk row"
      style={{ gap: 8, flexWrap: 'wrap' }}
      onSubmit={e => {
        e.preventDefault();
        apply();
      }}
    >
      <b>In {count(skus.length, 'product')}</b> set
      <select
        aria-label="Fact"
        value={field}
        onChange={e => {
          setField(e.target.value);
          const k = MANY.find(f => f.key === e.target.value)!.kind;
          setText(k === 'flag' ? 'yes' : k === 'stage' ? 'Live' : '');
        }}
      >
        {MANY.map(f => (
          <option key={f.key} value={f.key}>
            {f.words}
          </option>
        ))}
      </select>
      to
      {kind === 'flag' || kind === 'stage' ? (
        <select aria-label="Value" value={text} onChange={e => setText(e.target.value)}>
          {(kind === 'flag' ? ['yes', 'no'] : ['Live', 'Retired']).map(v => (
            <option key={v}>{v}</option>
          ))}
        </select>
      ) : (
        <input aria-label="Value" value={text} onChange={e => setText(e.target.value)} />
      )}
      <Button type="submit" size="small" variant="contained" disabled={save.isPending}>
        Change
      </Button>
      <Button size="small" onClick={done}>
        Choose none
      </Button>
      {wrong && <span className="stop">{wrong}</span>}
      <ProblemNote error={save.error} />
    </form>
  );
}

function NewProduct({ leave }: { leave: () => void }) {
  const [sku, setSku] = useState('');
  const [name, setName] = useState('');
  const [kind, setKind] = useState('piece');
  const navigate = useNavigate();
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: () => send('products', { sku, fields: { name, kind } }),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['products'] });
      void navigate(`/products/${encodeURIComponent(sku.toUpperCase())}`);
    },
  });
  return (
    <Ask
      title="New product"
      act="Make it"
      ready={sku.trim() !== '' && name.trim() !== ''}
      busy={make.isPending}
      error={make.error}
      onLeave={leave}
      onAct={() => make.mutate()}
    >
      <TextField
        label="SKU"
        fullWidth
        autoFocus
        margin="dense"
        value={sku}
        onChange={e => setSku(e.target.value)}
      />
      <TextField label="Name" fullWidth margin="dense" value={name} onChange={e => setName(e.target.value)} />
      <p>
        <select aria-label="Kind" value={kind} onChange={e => setKind(e.target.value)}>
          <option value="piece">a piece</option>
          <option value="kit">a kit, made ahead</option>
          <option value="bundle">a bundle, gathered at picking</option>
        </select>
      </p>
    </Ask>
  );
}
