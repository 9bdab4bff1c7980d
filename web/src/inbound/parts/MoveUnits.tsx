import { useState } from 'react';
import { v7 } from 'uuid';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { Line } from '../../parts/Line.js';
import { movePlanned } from '../api.js';
import { useAct } from '../useAct.js';
import type { ShownBox } from './BoxPlan.js';

/** Units of a line in a planned box, and the box of its part that they are meant for; null is a new one. */
export interface Moving {
  part: string;
  center: string;
  /** The number of the box in its part. */
  no: number;
  sku: string;
  units: number;
  to: number | null;
}

const NEW = 'new';

/** How many units go into which other box. */
export function MoveUnits({
  moving: m,
  boxes,
  leave,
}: {
  moving: Moving;
  boxes: readonly ShownBox[];
  leave: () => void;
}) {
  const [units, setUnits] = useState(String(m.units));
  const [to, setTo] = useState(m.to === null ? NEW : String(m.to));
  const [key] = useState(() => v7());
  const others = boxes.filter(b => b.of?.part === m.part && b.of.no !== m.no);
  const move = useAct(
    () =>
      movePlanned(m.part, {
        key,
        sku: m.sku,
        units: Number(units),
        from: m.no,
        to: to === NEW ? null : Number(to),
      }),
    leave,
  );
  return (
    <Ask
      title={`Move ${m.sku} out of box ${m.no}`}
      act="Move it"
      ready={Number(units) > 0 && Number(units) <= m.units}
      busy={move.isPending}
      error={move.error}
      onAct={() => move.mutate()}
      onLeave={leave}
    >
      <Line label="Units" digits value={units} onType={setUnits} hint={`${m.units} lie in it.`} />
      <Choice
        label="Into"
        fullWidth
        value={to}
        options={[
          [NEW, 'a new box'] as const,
          ...others.map(b => [String(b.of!.no), `box ${b.of!.no}, ${b.name}`] as const),
        ]}
        onChoose={setTo}
      />
    </Ask>
  );
}
