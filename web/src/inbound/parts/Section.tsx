import ButtonBase from '@mui/material/ButtonBase';
import type { ReactNode } from 'react';
import textCss from '../../parts/text.module.css';
import css from '../inbound.module.css';

interface Props {
  name: string;
  says: string;
  done: boolean;
  open: boolean;
  toggle: () => void;
  /** What is inside takes the whole width. */
  wide?: boolean;
  children: ReactNode;
}

/** A section of a shipment: one line that says how it stands; open while it wants something, or when it is pressed. */
export function Section({ name, says, done, open, toggle, wide, children }: Props) {
  return (
    <section className={css.section} aria-label={name} data-open={open || undefined}>
      <ButtonBase className={css.row} onClick={toggle} aria-expanded={open}>
        <b>{name}</b>
        <span className={done ? undefined : textCss.risk}>{says}</span>
        <b className={done ? textCss.good : textCss.risk} title={done ? 'satisfied' : 'wants something'}>
          {done ? '✓' : '▲'}
        </b>
      </ButtonBase>
      {open && <div className={wide ? css.wide : css.inside}>{children}</div>}
    </section>
  );
}
