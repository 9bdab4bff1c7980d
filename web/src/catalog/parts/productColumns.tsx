import type { ProductRow } from '@auk/contract';
import { CodeLink } from '../../parts/Code.js';
import { size, weight } from '../../parts/format.js';
import { Picture } from '../../parts/picture.js';
import type { Column } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { ProductStageMark } from './ProductStageMark.js';

/** A number of a product's stock; a bundle has none of its own. */
const own = (id: 'onHand' | 'reserved' | 'free', head: string): Column<ProductRow> => ({
  id,
  head,
  right: true,
  width: 8,
  cell: p => (p.kind === 'bundle' ? '' : p[id]),
});

/** The columns of the list of products. */
export const PRODUCT_COLUMNS: Column<ProductRow>[] = [
  {
    id: 'picture',
    head: 'Picture',
    width: 4,
    fixed: true,
    cell: p => <Picture name={p.picture} size={26} />,
  },
  {
    id: 'sku',
    head: 'SKU',
    width: 12,
    cell: p => <CodeLink to={`/products/${encodeURIComponent(p.sku)}`}>{p.sku}</CodeLink>,
  },
  {
    id: 'name',
    head: 'Name',
    width: 26,
    cell: p => (
      <>
        {p.name}
        {p.kind !== 'piece' && <span className={textCss.quiet}> {p.kind}</span>}
      </>
    ),
  },
  { id: 'stage', head: 'Stage', width: 9, cell: p => <ProductStageMark stage={p.stage} /> },
  {
    id: 'missing',
    head: 'Missing',
    width: 12,
    cell: p =>
      p.missing.map(m => (
        <span
          key={m.fact}
          title={m.costs}
          className={`${textCss.small} ${m.serious ? textCss.risk : textCss.quiet}`}
        >
          {m.serious ? '▲ ' : ''}
          {m.fact}{' '}
        </span>
      )),
  },
  {
    id: 'places',
    head: 'Places',
    width: 12,
    cell: p => (
      <span className={`${textCss.code} ${textCss.small}`}>
        {p.places.slice(0, 2).map(x => (
          <span key={x.code} className={textCss.whole}>
            {x.code}{' '}
          </span>
        ))}
      </span>
    ),
  },
  own('onHand', 'On hand'),
  own('reserved', 'Reserved'),
  own('free', 'Free'),
  { id: 'weight', head: 'Weight', right: true, cell: p => p.weightMg !== null && weight(p.weightMg) },
  {
    id: 'size',
    head: 'Size',
    right: true,
    width: 13,
    cell: p => <span className={textCss.small}>{p.size && size(p.size)}</span>,
  },
];
