import { type CarrierView, CollectionIn } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import { removeCollection, saveCollection } from '../api.js';
import css from '../carriers.module.css';

type Collection = CarrierView['collections'][number];

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const wordsOf = (weekdays: number[]): string =>
  weekdays.length === 7 ? 'every day' : weekdays.map(d => DAYS[d - 1]).join(' ');

/** When a carrier collects by the week. */
export function Collections({ carrier: c, may }: { carrier: CarrierView; may: boolean }) {
  const [editing, setEditing] = useState<Collection | 'new' | null>(null);
  return (
    <>
      <ul className={css.sheets}>
        {c.collections.map(k => (
          <li key={k.id} className={css.collection}>
            <b className={css.time}>{k.cutOff}</b>
            <span>
              {k.name}
              <span className={textCss.quiet}>
                {' '}
                {wordsOf(k.weekdays)}
                {k.freight && ', freight'}
              </span>
            </span>
            {may && !k.freight && (
              <Button
                size="small"
                color="secondary"
                aria-label={`Change ${k.name}`}
                onClick={() => setEditing(k)}
              >
                Change
              </Button>
            )}
          </li>
        ))}
      </ul>
      {may && (
        <Button size="small" variant="outlined" color="secondary" onClick={() => setEditing('new')}>
          Add a collection
        </Button>
      )}
      {editing && (
        <Edit carrier={c} known={editing === 'new' ? null : editing} leave={() => setEditing(null)} />
      )}
    </>
  );
}

function Edit({
  carrier,
  known,
  leave,
}: {
  carrier: CarrierView;
  known: Collection | null;
  leave: () => void;
}) {
  const client = useQueryClient();
  const [name, setName] = useState(known?.name ?? '');
  const [cutOff, setCutOff] = useState(known?.cutOff ?? '');
  const [weekdays, setWeekdays] = useState(known?.weekdays ?? [1, 2, 3, 4, 5]);
  const read = CollectionIn.safeParse({ name, cutOff, weekdays });
  const after = async () => {
    await changed(client, 'carriers', 'departures', 'orders');
    leave();
  };
  const save = useMutation({
    mutationFn: () => saveCollection(carrier.code, known?.id ?? null, read.data!),
    onSuccess: after,
  });
  const remove = useMutation({
    mutationFn: () => removeCollection(carrier.code, known!.id),
    onSuccess: after,
  });
  return (
    <Ask
      title={known ? `${carrier.name}, ${known.name}` : `A collection of ${carrier.name}`}
      act="Keep it"
      ready={read.success}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => save.mutate()}
    >
      <Line label="Name" autoFocus value={name} onType={setName} />
      <Line label="Leaves at" width={8} value={cutOff} hint="such as 17:30" onType={setCutOff} />
      <div>
        {DAYS.map((d, i) => (
          <Tick
            key={d}
            label={d}
            checked={weekdays.includes(i + 1)}
            onTick={on => setWeekdays(on ? [...weekdays, i + 1] : weekdays.filter(w => w !== i + 1))}
          />
        ))}
      </div>
      <p className={textCss.quiet}>
        It counts for all departures that are still to come, and orders leave with them at the new time.
      </p>
      {known && (
        <Button variant="outlined" color="error" disabled={remove.isPending} onClick={() => remove.mutate()}>
          Take it out of the week
        </Button>
      )}
      <ProblemNote error={remove.error} />
    </Ask>
  );
}
