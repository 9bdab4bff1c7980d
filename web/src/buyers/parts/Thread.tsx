import { can, type ThreadRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { Form } from '../../parts/Form.js';
import { moment } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { markSeen, threadQuery, writeToBuyer } from '../api.js';
import css from '../buyers.module.css';

const KINDS: Record<ThreadRow['kind'], string> = {
  buyer: 'the buyer',
  house: 'to the buyer',
  note: 'for us only',
  mail: 'mail',
};

/** What was said about an order, with the buyer and among us, in one line of time; and a way to write. */
export function Thread({ orderId }: { orderId: string }) {
  const may = can(useMe(), 'buyers.write');
  const client = useQueryClient();
  const thread = useQuery(threadQuery(orderId));
  const put = (got: unknown) => client.setQueryData(threadQuery(orderId).queryKey, got as never);
  const [draft, setDraft] = useState({ key: v7(), text: '' });
  const write = useMutation({
    mutationFn: () => writeToBuyer(orderId, draft.key, draft.text),
    onSuccess: got => {
      put(got);
      setDraft({ key: v7(), text: '' });
    },
  });
  const seen = useMutation({ mutationFn: () => markSeen(orderId), onSuccess: put });
  const t = thread.data;
  if (!t) return <ProblemNote error={thread.error} />;
  return (
    <section className={pageCss.panel} data-part="thread">
      <h2>With the buyer</h2>
      <ul className={css.thread}>
        {t.rows.map(r => (
          <li key={r.id} className={css[r.kind]}>
            <div className={textCss.quiet}>
              {KINDS[r.kind]} · {moment(r.at)}
              {r.by && ` · ${r.by}`}
              <Became state={r.state} mail={r.kind !== 'buyer'} />
            </div>
            {r.text}
          </li>
        ))}
      </ul>
      {t.rows.length === 0 && <p className={textCss.quiet}>Nothing was said yet.</p>}
      {may && (
        <Form
          label="Write to the buyer"
          ready={draft.text.trim() !== '' && !write.isPending}
          onSend={() => write.mutate()}
        >
          <Line
            label="Write to the buyer"
            rows={2}
            most={2000}
            value={draft.text}
            onType={text => setDraft({ ...draft, text })}
            hint={
              t.mail
                ? `It goes to ${t.mail}, and stands on the buyer’s page.`
                : 'It stands on the buyer’s page; the order has no mail address.'
            }
          />
          <div className={pageCss.inline}>
            <Button type="submit" variant="outlined" disabled={draft.text.trim() === '' || write.isPending}>
              Send
            </Button>
            {t.unread > 0 && (
              <Button color="secondary" disabled={seen.isPending} onClick={() => seen.mutate()}>
                Needs no answer
              </Button>
            )}
            <Button color="secondary" onClick={() => void copy(t.link)}>
              Copy the link to the buyer’s page
            </Button>
          </div>
        </Form>
      )}
      <ProblemNote error={write.error ?? seen.error} />
    </section>
  );
}

function Became({ state, mail }: { state: ThreadRow['state']; mail: boolean }) {
  if (state === 'new') return <b className={textCss.risk}> · ● not answered yet</b>;
  if (state === 'bounced') return <b className={textCss.stop}> · ▲ came back</b>;
  if (!mail || state === null) return null;
  return <span> · {state === 'sent' ? '✓ sent' : '◌ waits to be sent'}</span>;
}

async function copy(link: string): Promise<void> {
  await navigator.clipboard.writeText(link);
  say('The link is copied.');
}
