import { ListingRow } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Line } from '../../parts/Line.js';
import { PickOne } from '../../parts/PickOne.js';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import { foundProductsQuery } from '../api.js';
import { SkuAndName } from './PickProduct.js';

/** The link a person means for a listing: which product, how many units a sale. */
export interface Meant {
  sku: string;
  name: string;
  units: number;
  picture: string | null;
}

interface WhichProps {
  listing: ListingRow;
  meant: Meant | null;
  can: boolean;
  set: (m: Meant) => void;
}

/** The product meant for an unlinked listing: the best proposal until another is chosen. */
export function WhichProduct({ listing: l, meant, can: may, set }: WhichProps) {
  const [words, setWords] = useState('');
  const asked = words.trim();
  const found = useQuery(foundProductsQuery(asked));
  const alike: Meant[] = l.proposals.map(p => ({
    sku: p.sku,
    name: p.name,
    units: p.units,
    picture: p.picture,
  }));
  const others: Meant[] = (found.data?.rows ?? [])
    .filter(p => p.stage !== 'Retired')
    .map(p => ({ sku: p.sku, name: p.name, units: meant?.units ?? 1, picture: p.picture }));
  return (
    <div className={pageCss.row} style={{ gap: 8 }}>
      <Picture name={meant?.picture ?? null} size={28} />
      <PickOne
        bare
        label={`Product for ${l.channelSku}`}
        placeholder="Choose a product …"
        disabled={!may}
        value={meant}
        options={asked.length > 1 ? others : alike}
        late={asked.length > 1 && (found.isPending || found.isPlaceholderData)}
        onWords={setWords}
        wordsOf={p => p.name}
        keyOf={p => p.sku}
        groupOf={() => (asked.length > 1 ? 'Called so' : 'Alike')}
        onPick={p => p && set(p)}
        show={p => <SkuAndName sku={p.sku} name={p.name} picture={p.picture} />}
      />
      ×
      <Line
        bare
        digits
        width={3.5}
        label={`Units of one sale of ${l.channelSku}`}
        disabled={!may || !meant}
        value={String(meant?.units ?? 1)}
        onType={typed => meant && set({ ...meant, units: Math.min(1000, Math.max(1, Number(typed))) })}
      />
    </div>
  );
}
