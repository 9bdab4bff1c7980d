import { SURE_FROM } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { linkSku, unlinkedQuery } from '../../catalog/api.js';
import { PickProduct } from '../../catalog/parts/PickProduct.js';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { useCure } from '../useCure.js';

export function LinkListing({ channelSku }: { channelSku: string }) {
  const listing = useQuery(unlinkedQuery(channelSku));
  const [another, setAnother] = useState(false);
  const [sku, setSku] = useState('');
  const link = useCure((to: { sku: string; units: number }) => linkSku(channelSku, to));
  const row = listing.data?.rows.find(l => l.channelSku === channelSku);
  const best = row?.proposals[0];
  return (
    <div>
      {row && row.waiting > 1 && (
        <p>
          Linking it frees <b>{row.waiting} orders</b>.
        </p>
      )}
      {best && !another && (
        <div className={pageCss.inline}>
          <Picture name={best.picture} size={32} />
          <div className={pageCss.grow}>
            <b>{best.name}</b> <span className={textCss.code}>{best.sku}</span>
            {best.units > 1 && `, ${best.units} of it`}
            <div className={textCss.quiet}>
              {best.why.join('; ')}
              {best.score < SURE_FROM && '; look twice'}
            </div>
          </div>
          <Button
            size="small"
            variant="outlined"
            color="secondary"
            disabled={link.isPending}
            onClick={() => link.mutate({ sku: best.sku, units: best.units })}
          >
            Link
          </Button>
          <Button size="small" variant="outlined" color="secondary" onClick={() => setAnother(true)}>
            Another product
          </Button>
        </div>
      )}
      {(another || (listing.isSuccess && !best)) && (
        <div className={pageCss.inline}>
          <div style={{ width: '20rem' }}>
            <PickProduct bare label="Product to link" sku={sku} onPick={setSku} />
          </div>
          <Button
            variant="outlined"
            color="secondary"
            size="small"
            disabled={sku === '' || link.isPending}
            onClick={() => link.mutate({ sku, units: 1 })}
          >
            Link
          </Button>
          <Link to={`/products/listings?words=${encodeURIComponent(channelSku)}`}>All listings</Link>
        </div>
      )}
      <ProblemNote error={link.error} />
    </div>
  );
}
