import { can, type FloorChoices } from '@auk/contract';
import { type PickState, type PickStop, stopOpen } from '@auk/core';
import Button from '@mui/material/Button';
import InputBase from '@mui/material/InputBase';
import { type CSSProperties, useState } from 'react';
import { day, size } from '../../parts/format.js';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import { Pips } from '../../parts/pips.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import type { ScanSession } from '../../scans/useScanSession.js';
import { toteColours } from '../../theme/tokens.js';
import css from '../floor.module.css';

interface Props {
  stop: PickStop;
  state: PickState;
  choices: FloorChoices;
  scan: ScanSession<PickState>['scan'];
}

/** One stop: where, what, how many, and into which tote. */
export function Stop({ stop, state, choices, scan }: Props) {
  const mayByHand = can(useMe(), 'pick.by-hand');
  const seen = state.placeSeen === stop.placeCode;
  const open = stopOpen(stop);
  return (
    <>
      <div className={css.placerow}>
        <span
          className={css.place}
          style={{ '--letters': stop.placeCode.length } as CSSProperties}
          data-part="place"
        >
          {stop.placeCode}
        </span>
        <span className={seen ? css.seen : ''}>{seen ? '✓ right place' : 'scan the place'}</span>
      </div>
      <div className={css.thing}>
        {choices.show.includes('picture') && <Picture name={stop.product.picture} size={92} />}
        <div className={pageCss.grow}>
          <b>{stop.product.name}</b>
          <span className={`${textCss.code} ${css.sku}`} data-part="sku">
            {stop.product.sku}
          </span>
          {stop.product.hint && <div>{stop.product.hint}</div>}
          <Facts stop={stop} choices={choices} />
        </div>
      </div>
      {stop.notes?.map(note => (
        <p key={note} className={css.note}>
          ✎ {note}
        </p>
      ))}
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
        {mayByHand && <ByHand stop={stop} seen={seen} scan={scan} />}
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

/** What the lead has shown beside name and count. */
function Facts({ stop, choices }: Pick<Props, 'stop' | 'choices'>) {
  const { show } = choices;
  const codes = stop.product.codes.map(c => (c.units > 1 ? `${c.code} (${c.units})` : c.code));
  return (
    <>
      {show.includes('lot') && stop.lot && (
        <div>
          lot <b className={css.fact}>{stop.lot.code}</b>
          {stop.lot.expiry && `, expires ${day(stop.lot.expiry)}`}
        </div>
      )}
      {show.includes('size') && stop.size && <div>{size(stop.size)}</div>}
      {show.includes('codes') && <div className={`${textCss.code} ${css.sku}`}>{codes.join(' ')}</div>}
    </>
  );
}

/** Where a shelf or a piece has no label that can be read: its code is typed on the glass, or pressed. Both are kept as such. */
function ByHand({ stop, seen, scan }: Pick<Props, 'stop' | 'scan'> & { seen: boolean }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Button variant="outlined" onClick={() => setOpen(true)}>
        No label
      </Button>
    );
  const press = seen ? stop.product.codes[0]?.code : stop.placeCode;
  const say = (text: string, by: 'typed' | 'pressed') => {
    scan(text, by);
    setOpen(false);
  };
  return (
    <>
      <Button variant="outlined" onClick={() => setOpen(false)}>
        Close
      </Button>
      <InputBase
        className={css.typing}
        autoFocus
        inputProps={{ 'aria-label': 'Type a code', enterKeyHint: 'done' }}
        onKeyDown={e => {
          if (e.key === 'Enter') say((e.target as HTMLInputElement).value, 'typed');
        }}
      />
      {press && (
        <Button variant="outlined" className={css.wide} onClick={() => say(press, 'pressed')}>
          {seen ? 'It is this piece, without a label' : `I stand at ${stop.placeCode}`}
        </Button>
      )}
    </>
  );
}

/** Where the pieces are laid: the tote of their order, or what the whole heap lies on. */
function Into({ stop, state }: Pick<Props, 'stop' | 'state'>) {
  const carrier = stop.tote ?? state.trolley;
  if (!carrier) return null;
  return (
    <div className={css.tote}>
      {carrier.colour && <i style={{ background: toteColours[carrier.colour] }} aria-hidden="true" />}
      <b>{carrier.mark}</b>
      {stop.tote ? `into ${carrier.colour ?? 'its'} tote` : 'all onto it'}
    </div>
  );
}
