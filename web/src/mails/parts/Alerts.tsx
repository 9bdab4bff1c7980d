import { ALERTS, type Alert, AlertIn, type AlertView, type ChannelView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Choice } from '../../parts/Choice.js';
import { Drop } from '../../parts/Drop.js';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { removeAlert, saveAlert } from '../api.js';
import { ALERT_WORDS } from '../words.js';

interface Props {
  alerts: AlertView[];
  channels: ChannelView[];
  done: () => Promise<unknown>;
}

/** Who of the house hears by mail of new orders, of trouble, of buyers who write. */
export function Alerts({ alerts, channels, done }: Props) {
  const [wish, setWish] = useState<AlertIn>({ kind: 'trouble', channel: '', mail: '' });
  const save = useMutation({
    mutationFn: () => saveAlert(wish),
    onSuccess: async () => {
      await done();
      setWish({ ...wish, mail: '' });
    },
  });
  const remove = useMutation({ mutationFn: removeAlert, onSuccess: done });
  const ready = AlertIn.safeParse(wish).success && !save.isPending;
  return (
    <section>
      <h2>Who of us hears of it</h2>
      {alerts.map(a => (
        <div key={a.id}>
          {a.mail}{' '}
          <span className={textCss.quiet}>
            of {ALERT_WORDS[a.kind]}
            {a.channel && `, ${a.channel}`}
          </span>
          <Drop
            label={`No more mails to ${a.mail} of ${ALERT_WORDS[a.kind]}`}
            onDrop={() => remove.mutate(a.id)}
          />
        </div>
      ))}
      <Form className={pageCss.fields} label="A wish" ready={ready} onSend={() => save.mutate()}>
        <Choice
          label="When"
          value={wish.kind}
          options={ALERTS.map(k => [k, ALERT_WORDS[k]] as const)}
          onChoose={(kind: Alert) => setWish({ ...wish, kind })}
        />
        <Choice
          label="Channel"
          value={wish.channel}
          options={[['', 'every channel'], ...channels.map(c => [c.code, c.name] as const)]}
          onChoose={channel => setWish({ ...wish, channel })}
        />
        <Line label="Mail to" value={wish.mail} onType={mail => setWish({ ...wish, mail })} />
        <Button type="submit" variant="outlined" color="secondary" disabled={!ready}>
          Add
        </Button>
      </Form>
      <ProblemNote error={save.error ?? remove.error} />
    </section>
  );
}
