import { type PickState, type PickStop, stopOpen } from '@auk/core';
import Button from '@mui/material/Button';
import InputBase from '@mui/material/InputBase';
import { useState } from 'react';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import { Pips } from '../../parts/pips.js';
import textCss from '../../parts/text.module.css';
import css from '../floor.module.css';

interface Props {
  stop: PickStop;
  state: PickState;
  scan: (text: string) => void;
}

/** One stop: where, what, how many, and into which tote. */
export function Stop({ stop, state, scan }: Props) {
  const seen = state.placeSeen === stop.placeCode;
  const open = stopOpen(stop);
  return (
    <>
      <div className={css.placerow}>
        <span className={css.place} data-part="place">
          {stop.placeCode}
        </span>
        <span className={seen ? css.seen : ''}>{seen ? '✓ right place' : 'scan the place'}</span>
      </div>
      <div className={css.thing}>
        <Picture name={stop.product.picture} size={92} />
        <div className={pageCss.grow}>
          <b>{stop.product.name}</b>
          <span className={`${textCss.code} ${css.sku}`} data-part="sku">
            {stop.product.sku}
          </span>
          {stop.product.hint && <div>{stop.product.hint}</div>}
        </div>
      </div>
      <div className={css.counts}>
        <div>
          <span className={css.big}>{stop.taken}</span>
          <small>of {stop.wanted} taken</small>
        </div>
        <Pips wanted={stop.wanted} done={stop.taken} />
        <Into stop={stop} state={state} />
      </div>
      <div className={css.acts}>
        <Button variant="outlined" disabled={!(seen && state.seen)} onClick={() => scan('AUK-ALL')}>
          All {open} more
        </Button>
        <Button variant="outlined" disabled={!seen} onClick={() => scan('AUK-SHORT')}>
          Not enough
        </Button>
        <TypeCode scan={scan} />
      </div>
      <div className={css.more}>
        <Button variant="outlined" onClick={() => scan('AUK-UNDO')}>
          Undo
        </Button>
        <Button variant="outlined" onClick={() => scan('AUK-SKIP')}>
          Later
        </Button>
      </div>
    </>
  );
}

/** A code typed on the glass, where a shelf or a piece has no label that can be read. */
function TypeCode({ scan }: { scan: (text: string) => void }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Button variant="outlined" onClick={() => setOpen(true)}>
        No label
      </Button>
    );
  return (
    <InputBase
      className={css.typing}
      autoFocus
      inputProps={{ 'aria-label': 'Type a code', enterKeyHint: 'done' }}
      onBlur={() => setOpen(false)}
      onKeyDown={e => {
        if (e.key !== 'Enter') return;
        scan((e.target as HTMLInputElement).value);
        setOpen(false);
      }}
    />
  );
}

/** Where the pieces are laid: the tote of their order, or what the whole heap lies on. */
function Into({ stop, state }: Pick<Props, 'stop' | 'state'>) {
  const carrier = stop.tote ?? state.trolley;
  if (!carrier) return null;
  return (
    <div className={css.tote}>
      <b>{carrier.mark}</b>
      {stop.tote ? `into ${carrier.colour ?? ''} tote` : 'all onto it'}
    </div>
  );
}
