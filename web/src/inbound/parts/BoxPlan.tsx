import type { InboundBoxView } from '@auk/contract';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import { type DragEvent, useState } from 'react';
import { letterOf, OpenBox } from '../../parts/box/OpenBox.js';
import { size, weight } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import css from '../inbound.module.css';
import { MoveUnits, type Moving } from './MoveUnits.js';

/** A planned box, with the part of the shipment that it goes with and its number there; null while no way is chosen. */
export type ShownBox = InboundBoxView & { of: { part: string; center: string; no: number } | null };

interface Props {
  boxes: readonly ShownBox[];
  /** Which box is looked at, from 0. */
  at: number;
  look: (at: number) => void;
  /** The most that a box may weigh, in milligrams. */
  mostMg: number | null;
  /** No plan has fewer boxes, where that was computed. */
  bound: number | null;
  /** Whether what lies in them may still be changed. */
  may: boolean;
}

/** What is dragged: the SKU of a line of the box that is looked at. */
const DRAGGED = 'text/x-auk-sku';

/** One of the planned boxes drawn, with a letter for each product in it; its lines are dragged onto another box, or moved by a press. */
export function BoxPlan({ boxes, at, look, mostMg, bound, may }: Props) {
  const [moving, setMoving] = useState<Moving | null>(null);
  const box = boxes[Math.min(at, boxes.length - 1)];
  if (!box) return null;
  const kinds = new Map(box.contents.map((c, i) => [c.sku, i]));
  const moves = may && box.of !== null;
  const begin = (sku: string, to: ShownBox | null) => {
    const units = box.contents.find(c => c.sku === sku)?.units;
    if (units && box.of) setMoving({ ...box.of, sku, units, to: to?.of?.no ?? null });
  };
  const drop = (e: DragEvent, to: ShownBox) => {
    const sku = e.dataTransfer.getData(DRAGGED);
    if (sku && to !== box && to.of?.part === box.of?.part) begin(sku, to);
  };
  return (
    <figure aria-label="Boxes" style={{ margin: 0 }}>
      <figcaption>
        <b>
          Box {box.no} of {boxes.length}
        </b>
        , {box.name}, {size(box.inner)}, {weight(box.weightMg)}
        {mostMg !== null && ` of ${weight(mostMg)}`}
        {box.of && `, to ${box.of.center}`}
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
      <ul className={css.legend} aria-label={`In box ${box.no}`}>
        {box.contents.map((c, i) => (
          <li
            key={c.sku}
            draggable={moves}
            onDragStart={e => e.dataTransfer.setData(DRAGGED, c.sku)}
            style={moves ? { cursor: 'grab' } : undefined}
          >
            <b>{letterOf(i)}</b> {c.units} × <span className={textCss.code}>{c.sku}</span>
            {c.cases > 0 && `, ${c.cases} whole ${c.cases === 1 ? 'case' : 'cases'}`}
            {moves && (
              <Button size="small" onClick={() => begin(c.sku, null)}>
                Move
              </Button>
            )}
          </li>
        ))}
      </ul>
      {boxes.length > 1 && (
        <ul className={css.boxes} aria-label="All boxes">
          {boxes.map((b, i) => (
            <li key={b.no} onDragOver={e => e.preventDefault()} onDrop={e => drop(e, b)}>
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
      {moving && <MoveUnits moving={moving} boxes={boxes} leave={() => setMoving(null)} />}
    </figure>
  );
}
