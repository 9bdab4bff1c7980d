import { formatSize, type PackState, parcelAtHand } from '@auk/core';
import { useMemo } from 'react';
import css from '../../scans/bench.module.css';
import { backToFront, facesOf, lay, layoutOf, lies, type Point, project, wishOf } from '../boxDrawing.js';
import ownCss from '../packing.module.css';

const path = (points: readonly Point[]): string =>
  `M${points.map(p => `${p.x.toFixed(0)} ${p.y.toFixed(0)}`).join('L')}Z`;

/** The open box, drawn from its front right corner: what is in, the layer at hand, and the piece that goes in next. */
export function BoxDrawing({ state }: { state: PackState }) {
  const wish = JSON.stringify(wishOf(state));
  const laid = useMemo(() => lay(JSON.parse(wish)), [wish]);
  const layout = layoutOf(laid, state);
  if ('why' in layout) return <p className={css.lacks}>{layout.why}</p>;
  const { box, placed, next, layers, rest } = layout;
  const { length, width, height } = box.inner;
  const piece = next === null ? null : placed[next]!;
  const layer = piece ? layers.indexOf(piece.z) + 1 : layers.length;
  const shown = next === null ? placed : placed.slice(0, next + 1);
  const floor = [
    { x: 0, y: 0, z: 0 },
    { x: length, y: 0, z: 0 },
    { x: length, y: width, z: 0 },
    { x: 0, y: width, z: 0 },
  ];
  const rim = floor.map(c => project({ ...c, z: height }));
  const all = [...floor.map(project), ...rim];
  const [left, right] = [Math.min(...all.map(p => p.x)), Math.max(...all.map(p => p.x))];
  const [top, bottom] = [Math.min(...all.map(p => p.y)), Math.max(...all.map(p => p.y))];
  const line = state.lines.find(l => l.id === piece?.piece.id);
  const words = piece
    ? `Layer ${layer} of ${layers.length}. Next ${line!.product.name}, ${lies(piece)}.`
    : `All ${placed.length} lie in ${layers.length === 1 ? 'one layer' : `${layers.length} layers`}.`;
  return (
    <figure className={ownCss.boxplan}>
      <svg
        role="img"
        aria-label={`${box.name}: ${words}`}
        viewBox={`${left - 40} ${top - 40} ${right - left + 80} ${bottom - top + 80}`}
      >
        {[
          [floor[0]!, floor[1]!],
          [floor[0]!, floor[3]!],
        ].map(([a, b], i) => (
          <path
            key={i}
            className={ownCss.wall}
            d={path([project(a!), project(b!), project({ ...b!, z: height }), project({ ...a!, z: height })])}
          />
        ))}
        <path className={ownCss.wall} d={path(floor.map(project))} />
        {backToFront(shown).map((p, i) => (
          <g key={i} className={p === piece ? ownCss.nextPiece : ownCss.laidPiece}>
            {facesOf(p, p.size).map((face, f) => (
              <path key={f} data-face={f} d={path(face)} />
            ))}
          </g>
        ))}
        <path className={ownCss.rim} d={path(rim)} />
      </svg>
      <figcaption>
        {parcelAtHand(state).boxCode !== box.code && <b>Proposed: scan {box.code}. </b>}
        <b>{words}</b>
        {piece && <span> {formatSize(piece.size, 'imperial')} as it lies.</span>}
        {rest > 0 && <span> {rest} more for the next box: scan NEXTBOX when this one is full.</span>}
      </figcaption>
    </figure>
  );
}
