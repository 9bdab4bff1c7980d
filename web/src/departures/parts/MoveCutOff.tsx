import type { HandoverView } from '@auk/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { atClock } from '../../parts/atClock.js';
import { clock } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import { moveCutOff } from '../api.js';
import { Follows } from './Follows.js';

interface Props {
  view: HandoverView;
  put: (got: HandoverView) => void;
  leave: () => void;
}

/** Moves the cut-off of one departure within its day, and says what follows before it is done. */
export function MoveCutOff({ view, put, leave }: Props) {
  const [time, setTime] = useState(clock(view.cutOff));
  const cutOff = atClock(view.cutOff, time);
  const moved = cutOff !== null && cutOff !== view.cutOff;
  const move = useMutation({
    mutationFn: () => moveCutOff(view.no, cutOff!),
    onSuccess: got => {
      put(got);
      leave();
    },
  });
  return (
    <Ask
      title={`When ${view.carrierName} leaves`}
      act="Move it"
      ready={moved}
      busy={move.isPending}
      error={move.error}
      onAct={() => move.mutate()}
      onLeave={leave}
    >
      <Line
        label="Leaves at"
        autoFocus
        width={8}
        value={time}
        wrong={cutOff === null ? 'A time such as 17:30.' : null}
        onType={setTime}
      />
      {moved && <Follows no={view.no} cutOff={cutOff} />}
    </Ask>
  );
}
