import { can, type FloorChoices } from '@auk/contract';
import { type Carrier, orderOfTote, type PickState, stopOpen, totesOf, type WalkPause } from '@auk/core';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import type { ScanSession } from '../../scans/useScanSession.js';
import css from '../floor.module.css';
import { TakeNext } from './TakeNext.js';

interface PauseProps {
  state: PickState;
  pause: WalkPause;
  scan: ScanSession<PickState>['scan'];
}

/** Before the walk goes on: the tote is confirmed, or a whole order is seen. */
export function Pause({ state, pause, scan }: PauseProps) {
  const mayByHand = can(useMe(), 'pick.by-hand');
  if (pause.for === 'tote') {
    const { tote } = state.stops[pause.stop]!;
    return (
      <>
        <span className={css.place} data-part="place">
          {tote!.mark}
        </span>
        <p className={css.lead}>Lay it into the {tote!.colour} tote and scan that.</p>
        <Button variant="outlined" className={css.bigbutton} onClick={() => scan('AUK-UNDO')}>
          Undo
        </Button>
      </>
    );
  }
  const open = [...new Set(state.stops.filter(s => stopOpen(s) > 0).map(s => s.placeCode))];
  return (
    <>
      <span className={css.whole} data-part="place">
        ✓ {pause.orderNo}
      </span>
      <p className={css.lead}>This order is whole.</p>
      {state.choices.afterOrder === 'choose' &&
        mayByHand &&
        open.map(place => (
          <Button
            key={place}
            variant="outlined"
            className={css.bigbutton}
            onClick={() => scan(place, 'pressed')}
          >
            <span className={textCss.code}>{place}</span>
          </Button>
        ))}
      <Button variant="contained" className={css.bigbutton} onClick={() => scan('AUK-YES')}>
        Go on
      </Button>
    </>
  );
}

/** Before anything is taken: what the goods are laid into. */
export function Bring({ state, bring }: { state: PickState; bring: Carrier | null }) {
  const totes = totesOf(state);
  if (!bring)
    return (
      <>
        <span className={css.place} data-part="place">
          Trolley
        </span>
        <p className={css.lead}>
          All goods of this list go onto one trolley and are sorted later. Scan the trolley that you take.
        </p>
      </>
    );
  return (
    <>
      <span className={css.place} data-part="place">
        Tote
      </span>
      <p className={css.lead}>
        {totes.filter(t => t.seen).length + 1} of {totes.length}, for{' '}
        <span className={textCss.code}>{orderOfTote(state, bring)}</span>. Scan any free tote and set it on
        the trolley.
      </p>
      <p className={textCss.quiet}>
        {totes
          .filter(t => t.seen)
          .map(t => `${t.mark} is for ${orderOfTote(state, t)}`)
          .join(', ')}
      </p>
    </>
  );
}

/** The list is finished: what was not there, and where the goods go. What follows is the lead's choice. */
export function Finished({ state, after }: { state: PickState; after: FloorChoices['afterList'] }) {
  const missing = state.stops.filter(s => s.missing > 0);
  return (
    <>
      <span className={css.place} data-part="place">
        Done
      </span>
      <p className={css.lead}>
        {state.stops.length === 1 ? 'Its one stop is' : `All ${state.stops.length} stops are`} finished.
      </p>
      {missing.map(s => (
        <p key={s.id}>
          {s.missing} × {s.product.name} were not at {s.placeCode}.
        </p>
      ))}
      {state.dropped && (
        <p className={css.lead}>
          ✓ It stands at <b className={textCss.code}>{state.dropped}</b>.
        </p>
      )}
      {after === 'go on' && <TakeNext dropped={state.dropped !== null} />}
      {after !== 'stop' && (
        <Button variant="outlined" className={css.bigbutton} component={Link} to="/floor">
          Choose a list
        </Button>
      )}
    </>
  );
}
