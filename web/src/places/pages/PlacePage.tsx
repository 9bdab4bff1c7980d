import { PlaceView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { CodeLink } from '../../parts/Code.js';
import { Head } from '../../parts/Head.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { StockNav } from '../../stock/parts/StockNav.js';
import { KIND_WORDS } from '../../stock/words.js';
import { placeQuery } from '../api.js';

type Row = PlaceView['stock'][number];
const COLUMNS: Column<Row>[] = [
  {
    id: 'sku',
    head: 'SKU',
    width: 14,
    cell: s => <CodeLink to={`/products/${encodeURIComponent(s.sku)}`}>{s.sku}</CodeLink>,
  },
  { id: 'name', head: 'Product', width: 40, cell: s => s.name },
  { id: 'lot', head: 'Lot', cell: s => <span className={textCss.code}>{s.lot}</span> },
  { id: 'onHand', head: 'On hand', right: true, cell: s => <b>{s.onHand}</b> },
  { id: 'listed', head: 'On lists', right: true, cell: s => s.listed || '' },
];
const COUNTED = ['bin', 'reserve', 'dock', 'staging', 'bench', 'quarantine'];

/** What lies in a place or tote. */
export default function PlacePage() {
  const { code } = useParams();
  const place = useQuery(placeQuery(code!));
  if (!place.data) return <Waiting error={place.error} />;
  const { stock, kind } = place.data;
  return (
    <>
      <StockNav />
      <Head
        tab={place.data.code}
        title={
          <>
            {kind === 'tote' ? 'Tote' : 'Place'} <span className={textCss.code}>{place.data.code}</span>
          </>
        }
        about={KIND_WORDS[kind as keyof typeof KIND_WORDS] ?? kind}
      >
        {COUNTED.includes(kind) && (
          <Button
            variant="outlined"
            color="secondary"
            component={Link}
            to={`/stock/counts/${encodeURIComponent(place.data.code)}`}
          >
            Count this place
          </Button>
        )}
      </Head>
      <DataTable
        name="place-stock"
        label="What lies here"
        arrangeable={false}
        rows={stock}
        idOf={s => `${s.sku} ${s.lot}`}
        columns={COLUMNS}
        to={s => `/products/${encodeURIComponent(s.sku)}`}
        empty="Nothing lies here."
      />
    </>
  );
}
