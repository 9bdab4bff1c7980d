import type { MailWay } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';
import textCss from '../../parts/text.module.css';
import { saveWay } from '../api.js';

/** How mails leave the house, and where buyers find their pages. */
export function Way({ way, done }: { way: MailWay; done: () => Promise<unknown> }) {
  const [editing, setEditing] = useState(false);
  return (
    <section>
      <h2>How they leave</h2>
      {way.server === '' ? (
        <p className={textCss.risk}>! No mail leaves: no server is set.</p>
      ) : (
        <p className={textCss.quiet}>
          from {way.from}, by {way.server.replace(/^smtps?:\/\//, '')}; buyers’ pages at {way.pages}
        </p>
      )}
      <Button size="small" onClick={() => setEditing(true)}>
        Change
      </Button>
      {editing && <EditWay way={way} done={done} leave={() => setEditing(false)} />}
    </section>
  );
}

function EditWay({ way, done, leave }: { way: MailWay; done: () => Promise<unknown>; leave: () => void }) {
  const { hasPassword, ...kept } = way;
  const [w, setW] = useState({ ...kept, password: '' });
  const put = (more: Partial<typeof w>) => setW({ ...w, ...more });
  const save = useMutation({
    mutationFn: () => saveWay(w),
    onSuccess: async () => {
      await done();
      leave();
    },
  });
  return (
    <Ask
      title="How mails leave"
      act="Save"
      busy={save.isPending}
      error={save.error}
      onAct={() => save.mutate()}
      onLeave={leave}
    >
      <Line
        label="Mail server"
        hint="Such as smtps://mail.example:465. Empty: no mail leaves."
        autoFocus
        value={w.server}
        onType={server => put({ server })}
      />
      <Line label="From" value={w.from} onType={from => put({ from })} />
      <Line label="User of the server, where it asks for one" value={w.user} onType={user => put({ user })} />
      <Line
        label="Password"
        password
        hint={hasPassword ? 'Empty keeps the one that is there.' : ''}
        value={w.password}
        onType={password => put({ password })}
      />
      <Line
        label="Where buyers reach their pages"
        hint="Such as https://orders.example, without a slash at the end."
        value={w.pages}
        onType={pages => put({ pages })}
      />
    </Ask>
  );
}
