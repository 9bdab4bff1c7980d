import { StockRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { CodeLink } from '../../parts/Code.js';
import { day } from '../../parts/format.js';
import { Picture } from '../../parts/picture.js';
import { type Column } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { KIND_WORDS } from '../words.js';
import { type CarryWhat } from './CarryStock.js';

export const stockColumns = (carry: (what: CarryWhat) => void, mayWriteOff: boolean): Column<StockRow>[] => [
  {
    id: 'picture',
    head: 'Picture',
    width: 3.5,
    fixed: true,
    cell: r => <Picture name={r.picture} size={24} />,
  },
  {
    id: 'product',
    head: 'Product',
    width: 34,
    cell: r => (
      <>
        <Link className={textCss.name} to={`/products/${encodeURIComponent(r.sku)}/ledger`}>
          {r.name}
        </Link>{' '}
        <span className={`${textCss.code} ${textCss.quiet}`}>{r.sku}</span>
      </>
    ),
  },
  {
    id: 'place',
    head: 'Place',
    width: 16,
    cell: r => (
      <>
        <CodeLink to={`/places/${encodeURIComponent(r.place)}`}>{r.place}</CodeLink>{' '}
        <span className={textCss.quiet}>{KIND_WORDS[r.kind]}</span>
      </>
    ),
  },
  {
    id: 'lot',
    head: 'Lot and expiry',
    width: 18,
    cell: r => (
      <>
        <span className={textCss.code}>{r.lot}</span> <Expiry row={r} />
      </>
    ),
  },
  { id: 'onHand', head: 'On hand', right: true, width: 8, cell: r => <b>{r.onHand}</b> },
  { id: 'reserved', head: 'On lists', right: true, width: 8, cell: r => r.reserved || '' },
  {
    id: 'free',
    head: 'Free here',
    right: true,
    cell: r => (r.kind === 'quarantine' || r.state === 'expired' ? 'not promised' : r.free),
  },
  {
    id: 'acts',
    head: 'Acts',
    right: true,
    width: 14,
    fixed: true,
    cell: r => (
      <>
        <Button size="small" onClick={() => carry({ act: 'move', row: r })}>
          Move
        </Button>
        {mayWriteOff && (
          <Button size="small" onClick={() => carry({ act: 'write off', row: r })}>
            Write off
          </Button>
        )}
      </>
    ),
  },
];

function Expiry({ row: r }: { row: StockRow }) {
  if (r.state === 'expired') return <span className={textCss.stop}>✕ expired {day(r.expiry)}</span>;
  if (r.state === 'soon') return <span className={textCss.risk}>! expires {day(r.expiry)}</span>;
  return (
    <span className={textCss.quiet}>{r.expiry && `expires ${day(r.expiry)} ${r.expiry.slice(0, 4)}`}</span>
  );
}
