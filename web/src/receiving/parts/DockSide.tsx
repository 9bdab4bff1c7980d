import { ReceiveView } from '@auk/contract';
import { atDevice, type ReceiveState } from '@auk/core';
import textCss from '../../parts/text.module.css';
import css from '../../scans/bench.module.css';
import { deviceId } from '../../scans/device.js';
import { Beside } from '../../scans/Lines.js';

export function DockSide({
  state,
  view,
  waiting,
  offline,
}: {
  state: ReceiveState;
  view: ReceiveView;
  waiting: number;
  offline: boolean;
}) {
  const mine = atDevice(state, deviceId());
  const held = mine.inHand.at(-1);
  const line = held && state.lines.find(l => l.id === held.lineId);
  const others = mine.inHand.filter(h => h.lineId !== held?.lineId).reduce((n, h) => n + h.units, 0);
  const units = mine.inHand.filter(h => h.lineId === held?.lineId).reduce((n, h) => n + h.units, 0);
  return (
    <Beside>
      <h2>Put away</h2>
      {line ? (
        <>
          <p>
            {units} × {line.product.name} to
          </p>
          <p className={`${css.putaway} ${textCss.code}`} data-part="put away">
            {line.putAway?.code ?? 'any place'}
          </p>
          <small>
            {line.putAway?.why ?? 'no place has room; choose one'}. Scan the place when they lie there.
          </small>
          {others > 0 && <p className={textCss.risk}>{others} more lie on the dock.</p>}
        </>
      ) : (
        <small>Nothing is in hand. What stays on the dock can be picked from there.</small>
      )}
      {offline && <p className={textCss.risk}>No network: scans are kept and sent later.</p>}
      {!offline && waiting > 0 && <small>{waiting} on their way</small>}
      <h2 style={{ marginTop: 28 }}>Clear now</h2>
      {view.freed.length === 0 && <small>Orders that waited for this show here, most urgent first.</small>}
      {view.freed.map(o => (
        <p key={o.id} className={css.freed}>
          ● <span className={textCss.code}>{o.channelNumber}</span> {o.buyer}
        </p>
      ))}
    </Beside>
  );
}
