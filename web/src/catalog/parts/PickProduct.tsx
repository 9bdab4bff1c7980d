import type { ProductRow } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { type Ref, useState } from 'react';
import { PickOne } from '../../parts/PickOne.js';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import textCss from '../../parts/text.module.css';
import { foundProductsQuery } from '../api.js';

/** Something by its SKU and its name, as it stands where one is picked. */
export function SkuAndName({ sku, name, picture }: { sku: string; name: string; picture?: string | null }) {
  return (
    <>
      {picture !== undefined && <Picture name={picture} size={24} />}
      <span className={`${pageCss.grow} ${textCss.cut}`} style={{ margin: '0 0.5rem' }}>
        {name}
      </span>
      <span className={`${textCss.code} ${textCss.quiet}`}>{sku}</span>
    </>
  );
}

interface ProductProps {
  label: string;
  bare?: boolean;
  placeholder?: string;
  sku: string;
  onPick: (sku: string) => void;
  emptied?: boolean;
  /** Which of the products found may be picked. */
  may?: (product: ProductRow) => boolean;
  inputRef?: Ref<HTMLInputElement>;
}

/** A product, found by SKU, name or code among all there are, or typed by its SKU whole. */
export function PickProduct(props: ProductProps) {
  const { label, bare, placeholder, sku, onPick, emptied, may } = props;
  const [words, setWords] = useState('');
  const asked = words.trim();
  const found = useQuery(foundProductsQuery(asked));
  const rows = (asked.length > 1 ? (found.data?.rows ?? []) : []).filter(
    p => p.stage !== 'Retired' && (may?.(p) ?? true),
  );
  // Who types a SKU whole means that product, however many others begin so.
  const exact = rows.filter(p => p.sku === asked.toUpperCase());
  const options: Sku[] = exact.length > 0 ? exact : rows;
  return (
    <PickOne<Sku>
      label={label}
      bare={bare}
      placeholder={placeholder ?? 'SKU or name'}
      value={sku === '' || emptied ? null : { sku }}
      emptied={emptied}
      inputRef={props.inputRef}
      options={options}
      late={asked.length > 1 && (found.isPending || found.isPlaceholderData)}
      onWords={setWords}
      ofWords={typed => ({ sku: typed.toUpperCase() })}
      wordsOf={p => p.sku}
      keyOf={p => p.sku}
      onPick={p => onPick(p?.sku ?? '')}
      show={p => <SkuAndName sku={p.sku} name={p.name ?? ''} picture={p.picture ?? null} />}
    />
  );
}

type Sku = { sku: string; name?: string; picture?: string | null };
