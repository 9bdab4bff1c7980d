import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Form } from '../../parts/Form.js';
import { moment } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { elsewhereQuery, sendFromHere, tellLeft } from '../api.js';

interface Props {
  orderId: string;
  can: boolean;
}

/** Who sends the order in the house's stead: what was ordered there, and its tracking number when it left. Nothing for all other orders. */
export function ElsewherePanel({ orderId, can }: Props) {
  const view = useQuery(elsewhereQuery(orderId));
  const sent = view.data?.sent;
  if (!sent) return null;
  return (
    <section className={pageCss.panel} aria-label="Sent elsewhere">
      <h2>{sent.name} sends it</h2>
      <dl className={pageCss.facts}>
        {sent.purchase && (
          <>
            <dt>Ordered</dt>
            <dd>
              <span className={textCss.code}>{sent.purchase}</span>{' '}
              <span className={textCss.quiet}>{sent.placedAt && moment(sent.placedAt)}</span>
              <div>
                {sent.mail
                  ? `Mailed to ${sent.mail}.`
                  : '▲ Nobody told where they read mail: send them the file.'}
              </div>
              <Button size="small" href={`/api/v1/elsewhere/purchases/${sent.purchase}/csv`}>
                Table
              </Button>
              <Button size="small" href={`/api/v1/elsewhere/purchases/${sent.purchase}/xml`}>
                UBL order
              </Button>
            </dd>
          </>
        )}
        {!sent.placedAt && (
          <>
            <dt>Waits</dt>
            <dd>{sent.why ?? 'It is ordered there as soon as nothing stops it here.'}</dd>
          </>
        )}
        {sent.leftAt && (
          <>
            <dt>Left there</dt>
            <dd>{moment(sent.leftAt)}</dd>
          </>
        )}
      </dl>
      {can && !sent.leftAt && <Acts orderId={orderId} name={sent.name} />}
    </section>
  );
}

/** Their tracking number is typed in, or the house sends it after all. */
function Acts({ orderId, name }: { orderId: string; name: string }) {
  const client = useQueryClient();
  const [carrier, setCarrier] = useState('');
  const [tracking, setTracking] = useState('');
  const [asking, setAsking] = useState(false);
  const done = () => changed(client, 'orders', 'stock', 'purchases', 'parcels');
  const left = useMutation({ mutationFn: () => tellLeft(orderId, { carrier, tracking }), onSuccess: done });
  const back = useMutation({
    mutationFn: () => sendFromHere(orderId),
    onSuccess: async () => {
      setAsking(false);
      await done();
    },
  });
  return (
    <>
      <Form className={pageCss.inline} label="It left there" onSend={() => left.mutate()}>
        <Line label="Carrier" value={carrier} onType={setCarrier} />
        <Line label="Tracking number" value={tracking} onType={setTracking} />
        <Button
          type="submit"
          variant="outlined"
          disabled={left.isPending || carrier.trim() === '' || tracking.trim() === ''}
        >
          It left
        </Button>
      </Form>
      <ProblemNote error={left.error} />
      <Button size="small" onClick={() => setAsking(true)}>
        Send it from here after all
      </Button>
      {asking && (
        <Ask
          title="Send it from here?"
          act="Send it from here"
          busy={back.isPending}
          error={back.error}
          onAct={() => back.mutate()}
          onLeave={() => setAsking(false)}
        >
          What was ordered from {name} is called off, and the order wants its goods from our own shelves.
        </Ask>
      )}
    </>
  );
}
