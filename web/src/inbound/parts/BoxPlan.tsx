import type { InboundBoxView } from '@auk/contract';
import ButtonBase from '@mui/material/ButtonBase';
import { letterOf, OpenBox } from '../../parts/box/OpenBox.js';
import { size, weight } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import css from '../inbound.module.css';

interface Props {
  boxes: readonly InboundBoxView[];
  /** Which box is looked at, from 0. */
  at: number;
  look: (at: number) => void;
  /** The most that a box may weigh, in milligrams. */
  mostMg: number | null;
  /** No plan has fewer boxes, where that was computed. */
  bound: number | null;
}

/** One of the planned boxes drawn, with a letter for each product in it; the others to be looked at. */
export function BoxPlan({ boxes, at, look, mostMg, bound }: Props) {
  const box = boxes[Math.min(at, boxes.length - 1)];
  if (!box) return null;
  const kinds = new Map(box.contents.map((c, i) => [c.sku, i]));
  return (
    <figure aria-label="Boxes" style={{ margin: 0 }}>
      <figcaption>
        <b>
          Box {box.no} of {boxes.length}
        </b>
        , {box.name}, {size(box.inner)}, {weight(box.weightMg)}
        {mostMg !== null && ` of ${weight(mostMg)}`}
        {bound !== null && <span className={textCss.quiet}> · no plan has fewer than {bound}</span>}
        {box.heavy && <b className={textCss.risk}> ▲ heavy: it is marked</b>}
      </figcaption>
      <OpenBox
        inner={box.inner}
        placed={box.placed}
        label={`Box ${box.no}: ${box.contents.map(c => `${c.units} ${c.sku}`).join(', ')}`}
        height={13}
        kindOf={p => kinds.get(p.sku) ?? 0}
      />
      <ul className={css.legend}>
        {box.contents.map((c, i) => (
          <li key={c.sku}>
            <b>{letterOf(i)}</b> {c.units} × <span className={textCss.code}>{c.sku}</span>
            {c.cases > 0 && `, ${c.cases} whole ${c.cases === 1 ? 'case' : 'cases'}`}
          </li>
        ))}
      </ul>
      {boxes.length > 1 && (
        <ul className={css.boxes} aria-label="All boxes">
          {boxes.map((b, i) => (
            <li key={b.no}>
              <ButtonBase
                aria-current={b === box || undefined}
                aria-label={`Box ${b.no}`}
                onClick={() => look(i)}
                sx={{
                  border: '1px solid var(--line)',
                  minWidth: '2rem',
                  padding: '0.125rem 0.375rem',
                  font: 'inherit',
                  '&[aria-current]': { background: 'var(--ink)', color: 'var(--ground)' },
                }}
              >
                {b.no}
                {b.heavy && '▲'}
              </ButtonBase>
            </li>
          ))}
        </ul>
      )}
    </figure>
  );
}
