import type { OpenedPreparing } from '@auk/contract';
import {
  count,
  labelSeen,
  PREPARING,
  type PrepareState,
  prepareDone,
  prepareOpen,
  prepareScan,
} from '@auk/core';
import Button from '@mui/material/Button';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import handCss from '../../scans/hand.module.css';
import { useScanSession } from '../../scans/useScanSession.js';
import { type AtHand, HandBoard } from '../../shell/HandBoard.js';
import { preparePath, unitLabelsPath } from '../api.js';
import css from '../inbound.module.css';

/** What is packed at a bench: an order, its tote, its list, its parcel. */
export const OF_BENCH = /^(OR|TO|PL|PA)-\d/i;
const OPENS = /^(IN|OR|TO|PL|PA)-\d/i;

/** A shipment that is being prepared: the piece in hand with what is to be done to it, and how far each product is. */
export function PrepareBoard({ opened, open, early, leave }: AtHand<OpenedPreparing>) {
  const { sessionId, no, printer } = opened;
  const session = useScanSession(sessionId, preparePath(sessionId), no, opened.state, prepareScan);
  const { state } = session;
  useTitle(`Preparing ${state.name}`);
  return (
    <HandBoard
      session={session}
      heads={[
        ['shipment', state.name],
        ['number', no],
      ]}
      left={state.lines.reduce((n, l) => n + prepareOpen(l), 0)}
      all={state.lines.reduce((n, l) => n + l.wanted, 0)}
      noun="unit"
      act={['prepare', 'prepared']}
      says={{ says: `${state.name} is open.`, next: 'Scan a piece.' }}
      opens={OPENS}
      open={open}
      early={early}
      leave={leave}
    >
      {scan => (
        <>
          <Hand state={state} no={no} printer={printer} scan={scan} leave={leave} />
          <Lines state={state} />
        </>
      )}
    </HandBoard>
  );
}

interface HandProps {
  state: PrepareState;
  no: string;
  printer: string | null;
  scan: (text: string) => void;
  leave: () => void;
}

/** The piece in hand and what is to be done to it, read from two steps away. */
function Hand({ state, no, printer, scan, leave }: HandProps) {
  const { at } = state;
  const line = at && state.lines[at.line]!;
  const more = line ? prepareOpen(line) - at.labels : 0;
  const labels = at && labelSeen(state) ? at.labels : 0;
  return (
    <section className={handCss.hand} aria-label="The piece in hand">
      {line && !prepareDone(state) ? (
        <>
          <div className={handCss.piece}>
            <Picture name={line.product.picture} size={72} />
            <div>
              <b>{line.product.name}</b>
              <div className={`${textCss.code} ${textCss.quiet}`}>{line.product.sku}</div>
            </div>
          </div>
          <ol
            className={css.todo}
            aria-label="What is done to it"
            data-one={line.needs.length === 1 || undefined}
          >
            {line.needs.map(n => (
              <li key={n}>{PREPARING[n]}</li>
            ))}
          </ol>
          {at.labels > 0 && (
            <p data-part="labels">
              <b>{count(at.labels, 'label')}</b> to put on{' '}
              {printer ? (
                `· ${printer}`
              ) : (
                <a href={unitLabelsPath(no, line.product.sku, at.labels)} target="_blank" rel="noreferrer">
                  open to print
                </a>
              )}
            </p>
          )}
        </>
      ) : (
        <span className={handCss.idle}>{prepareDone(state) ? 'All is prepared.' : 'Scan a piece.'}</span>
      )}
      <div className={`${handCss.acts} ${css.pairs}`}>
        <Button variant="outlined" disabled={more === 0 && !labels} onClick={() => scan('AUK-ALL')}>
          {more > 0 ? `All ${more} more` : labels ? `All ${labels} are on` : 'All of it'}
        </Button>
        <Button variant="outlined" disabled={!line} onClick={() => scan('AUK-SPOILED')}>
          Spoiled
        </Button>
        <Button variant="outlined" onClick={() => scan('AUK-UNDO')}>
          Undo
        </Button>
        <Button variant="outlined" onClick={leave}>
          Leave
        </Button>
      </div>
    </section>
  );
}

/** How far each product is. */
function Lines({ state }: { state: PrepareState }) {
  return (
    <ol className={css.lines} aria-label="Products to prepare">
      {state.lines.map((l, i) => (
        <li
          key={l.id}
          data-part={state.at?.line === i ? 'now' : 'line'}
          aria-current={state.at?.line === i || undefined}
        >
          <Picture name={l.product.picture} size={40} />
          <span className={pageCss.grow}>
            <b>{l.product.name}</b>
            <small>{l.needs.join(', ')}</small>
          </span>
          <span>
            {prepareOpen(l) === 0 ? `✓ all ${l.wanted}` : `${l.done} of ${l.wanted}`}
            {l.spoiled > 0 && <span className={textCss.risk}> ▲ {l.spoiled} spoiled</span>}
          </span>
        </li>
      ))}
    </ol>
  );
}
