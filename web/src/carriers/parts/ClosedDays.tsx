import { ClosedDay } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { DayField } from '../../parts/DayField.js';
import { Drop } from '../../parts/Drop.js';
import { Form } from '../../parts/Form.js';
import { day } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { closedDaysQuery, proposedDaysQuery, setClosedDays } from '../api.js';
import css from '../carriers.module.css';

/** Days on which no carrier collects or delivers. */
export function ClosedDays({ may }: { may: boolean }) {
  const client = useQueryClient();
  const days = useQuery(closedDaysQuery);
  const proposed = useQuery(proposedDaysQuery);
  const [typed, setTyped] = useState({ day: '', name: '' });
  const read = ClosedDay.safeParse(typed);
  const known = days.data ?? [];
  const save = useMutation({
    mutationFn: (next: ClosedDay[]) => setClosedDays(next),
    onSuccess: async () => {
      setTyped({ day: '', name: '' });
      await changed(client, 'carriers', 'departures');
    },
  });
  return (
    <section>
      <h2>Days off</h2>
      <p className={textCss.quiet}>No carrier collects or delivers on these.</p>
      <ul className={css.sheets}>
        {known.map(d => (
          <li key={d.day}>
            {day(d.day)} {d.name}{' '}
            {may && (
              <Drop
                label={`${d.name} is no day off`}
                onDrop={() => save.mutate(known.filter(k => k !== d))}
              />
            )}
          </li>
        ))}
      </ul>
      {may && (proposed.data?.length ?? 0) > 0 && (
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          disabled={save.isPending}
          onClick={() => save.mutate([...known, ...proposed.data!])}
        >
          Add the {count(proposed.data!.length, 'public holiday')} of the next year
        </Button>
      )}
      {may && (
        <Form
          className={pageCss.fields}
          label="A day off"
          ready={read.success && !save.isPending}
          onSend={() =>
            read.success && save.mutate([...known.filter(k => k.day !== read.data.day), read.data])
          }
        >
          <DayField
            label="Day"
            value={typed.day || null}
            onChange={d => setTyped({ ...typed, day: d ?? '' })}
          />
          <Line label="Name" width={10} value={typed.name} onType={name => setTyped({ ...typed, name })} />
          <Button type="submit" variant="outlined" color="secondary" disabled={!read.success}>
            Add it
          </Button>
        </Form>
      )}
      <ProblemNote error={save.error ?? days.error} />
    </section>
  );
}
