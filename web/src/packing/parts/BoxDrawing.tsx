import { type PackState, parcelAtHand } from '@auk/core';
import { useMemo } from 'react';
import { OpenBox } from '../../parts/box/OpenBox.js';
import { size } from '../../parts/format.js';
import css from '../../scans/bench.module.css';
import { lay, layoutOf, lies, wishOf } from '../boxDrawing.js';
import ownCss from '../packing.module.css';

/** The open box, drawn from its front right corner: what is in, the layer at hand, and the piece that goes in next. */
export default function BoxDrawing({ state }: { state: PackState }) {
  const wish = JSON.stringify(wishOf(state));
  const laid = useMemo(() => lay(JSON.parse(wish)), [wish]);
  const layout = layoutOf(laid, state);
  if ('why' in layout) return <p className={css.lacks}>{layout.why}</p>;
  const { box, placed, next, layers, rest } = layout;
  const piece = next === null ? null : placed[next]!;
  const layer = piece ? layers.indexOf(piece.z) + 1 : layers.length;
  const shown = next === null ? placed : placed.slice(0, next + 1);
  const line = state.lines.find(l => l.id === piece?.piece.id);
  const words = piece
    ? `Layer ${layer} of ${layers.length}. Next ${line!.product.name}, ${lies(piece)}.`
    : `All ${placed.length} lie in ${layers.length === 1 ? 'one layer' : `${layers.length} layers`}.`;
  return (
    <figure className={ownCss.boxplan}>
      <OpenBox inner={box.inner} placed={shown} next={piece} label={`${box.name}: ${words}`} height={15} />
      <figcaption>
        {parcelAtHand(state).boxCode !== box.code && <b>Proposed: scan {box.code}. </b>}
        <b>{words}</b>
        {piece && <span> {size(piece.size)} as it lies.</span>}
        {rest > 0 && <span> {rest} more for the next box: scan NEXTBOX when this one is full.</span>}
      </figcaption>
    </figure>
  );
}
