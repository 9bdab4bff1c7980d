import type { InboundPalletView, InboundView } from '@auk/contract';
import { count, freightFacts } from '@auk/core';
import { OpenBox } from '../../parts/box/OpenBox.js';
import { size, weight } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';

interface Props {
  pallets: readonly InboundPalletView[];
  kind: NonNullable<InboundView['rules']>['pallet'];
}

/** Pallets as they are loaded, with what their carrier asks: how many, how large, how heavy. */
export function PalletPlan({ pallets, kind }: Props) {
  const { density, freightClass } = freightFacts(pallets);
  return (
    <>
      {pallets.length > 0 && (
        <p className={textCss.quiet}>
          {count(pallets.length, 'pallet')}, {weight(pallets.reduce((n, p) => n + p.weightMg, 0))} together,{' '}
          {density} lb a cubic foot: freight class {freightClass} by density.
        </p>
      )}
      {pallets.map(p => {
        const codes = [...new Set(p.placed.map(b => b.code))];
        return (
          <figure key={p.no} aria-label={`Pallet ${p.no}`} style={{ margin: '0.5rem 0' }}>
            <figcaption>
              <b>
                Pallet {p.no} of {pallets.length}
              </b>
              , {count(p.boxes, 'box', 'boxes')}, {size(p.size)} with the pallet, {weight(p.weightMg)} of{' '}
              {weight(kind.mostWeightMg)}
              {p.seam && <span className={textCss.risk}> ▲ a seam goes through: wrap it</span>}
            </figcaption>
            <OpenBox
              inner={{ length: kind.length, width: kind.width, height: kind.mostHeight - kind.deck }}
              placed={p.placed}
              label={`Pallet ${p.no}: ${count(p.boxes, 'box', 'boxes')}`}
              height={13}
              kindOf={b => codes.indexOf(b.code)}
            />
          </figure>
        );
      })}
    </>
  );
}
