import { ListingRow } from '@auk/contract';
import { count, formatMoney, SURE_FROM } from '@auk/core';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { type Column } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { Meant, WhichProduct } from './WhichProduct.js';

interface Doings {
  unlinked: boolean;
  can: boolean;
  meaning: (l: ListingRow) => Meant | null;
  byHand: (l: ListingRow) => boolean;
  mean: (l: ListingRow, m: Meant) => void;
  unlink: (l: ListingRow) => void;
}

export function listingColumns({
  unlinked,
  can: may,
  meaning,
  byHand,
  mean,
  unlink,
}: Doings): Column<ListingRow>[] {
  return [
    {
      id: 'listing',
      head: 'Listing',
      width: 24,
      cell: l => (
        <>
          {l.title}
          <div className={`${textCss.code} ${textCss.quiet}`}>
            {l.channelSku} {l.gtin}
          </div>
        </>
      ),
    },
    { id: 'channel', head: 'Channel', width: 12, cell: l => l.channel },
    {
      id: 'price',
      head: 'Price',
      width: 7,
      right: true,
      cell: l => l.priceMinor !== null && formatMoney(l.priceMinor, l.currency),
    },
    {
      id: 'waiting',
      head: 'Waiting',
      width: 8,
      right: true,
      cell: l => l.waiting > 0 && <b className={textCss.stop}>{count(l.waiting, 'order')}</b>,
    },
    {
      id: 'product',
      head: unlinked ? 'Which product' : 'Product',
      width: 32,
      cell: l =>
        l.product ? (
          <Linked listing={l} />
        ) : (
          <WhichProduct listing={l} meant={meaning(l)} can={may} set={m => mean(l, m)} />
        ),
    },
    {
      id: 'why',
      head: unlinked ? 'Why' : 'For sale',
      width: 17,
      cell: l => (
        <span className={textCss.quiet}>
          <Why listing={l} byHand={byHand(l)} />
        </span>
      ),
    },
    ...(may && !unlinked
      ? [
          {
            id: 'acts',
            head: 'Acts',
            width: 8,
            fixed: true,
            right: true,
            cell: (l: ListingRow) =>
              l.product && (
                <Button size="small" onClick={() => unlink(l)}>
                  Unlink
                </Button>
              ),
          },
        ]
      : []),
  ];
}

function Linked({ listing: l }: { listing: ListingRow }) {
  const p = l.product!;
  return (
    <>
      <Link className={textCss.name} to={`/products/${encodeURIComponent(p.sku)}`}>
        {p.name}
      </Link>{' '}
      <span className={`${textCss.code} ${textCss.quiet}`}>{p.sku}</span>
      {l.units > 1 && <b> × {l.units}</b>}
      {p.stage === 'Retired' && <span className={textCss.stop}> ⊘ Retired</span>}
    </>
  );
}

function Why({ listing: l, byHand }: { listing: ListingRow; byHand: boolean }) {
  if (l.product)
    return (
      <>
        <b>{l.forSale}</b> {l.pushed !== null && l.pushed !== l.forSale && `(${l.pushed} told)`}
      </>
    );
  if (byHand) return 'chosen by you';
  const best = l.proposals[0];
  if (!best) return 'nothing here is like it';
  return (
    <>
      <b className={best.score >= SURE_FROM ? textCss.good : textCss.risk}>
        {Math.round(best.score * 100)} %
      </b>{' '}
      {best.why.join('; ')}
    </>
  );
}
