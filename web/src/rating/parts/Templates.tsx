import type { ChosenService } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Drop } from '../../parts/Drop.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { dropTemplate, keepTemplate, parcelTemplatesQuery, sendAs } from '../api.js';

interface Props {
  /** The order that may leave as a template says. */
  orderId: string;
  /** What is looked at, which may be kept as a template. */
  chosen: ChosenService;
}

/** Ready-made choices: one press chooses service, box and what is asked; what is looked at can be kept as another. */
export function Templates({ orderId, chosen }: Props) {
  const client = useQueryClient();
  const templates = useQuery(parcelTemplatesQuery);
  const [naming, setNaming] = useState(false);
  const use = useMutation({
    mutationFn: (id: string) => sendAs(id, [orderId]),
    onSuccess: async ([answer]) => {
      say(answer!.says);
      await changed(client, 'orders', 'parcels', 'carriers');
    },
  });
  const drop = useMutation({ mutationFn: dropTemplate, onSuccess: () => changed(client, 'carriers') });
  return (
    <div className={pageCss.inline} data-part="templates">
      <span className={textCss.quiet}>Ready-made:</span>
      {templates.data?.map(t => (
        <span key={t.id}>
          <Button
            size="small"
            variant="outlined"
            color="secondary"
            disabled={use.isPending}
            title={[t.carrierName, t.serviceName, t.box].filter(Boolean).join(', ')}
            onClick={() => use.mutate(t.id)}
          >
            {t.name}
          </Button>
          <Drop label={`Forget the template ${t.name}`} onDrop={() => drop.mutate(t.id)} />
        </span>
      ))}
      {templates.data?.length === 0 && <span className={textCss.quiet}>none yet.</span>}
      <Button size="small" onClick={() => setNaming(true)}>
        Keep {chosen.name} as a template
      </Button>
      <ProblemNote error={use.error ?? drop.error ?? templates.error} />
      {naming && <Name chosen={chosen} leave={() => setNaming(false)} />}
    </div>
  );
}

function Name({ chosen, leave }: { chosen: ChosenService; leave: () => void }) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const { carrier, account, service, boxes, options } = chosen;
  const box = boxes.length === 1 ? boxes[0]! : null;
  const keep = useMutation({
    mutationFn: () =>
      keepTemplate({ name, carrier, account, service, serviceName: chosen.name, box, options }),
    onSuccess: async () => {
      await changed(client, 'carriers');
      leave();
    },
  });
  return (
    <Ask
      title="Keep it as a template"
      act="Keep it"
      ready={name.trim() !== ''}
      busy={keep.isPending}
      error={keep.error}
      onAct={() => keep.mutate()}
      onLeave={leave}
    >
      <p>
        {chosen.name}
        {box && `, in ${box}`}, with what is asked here. Orders can be sent so one by one, or many at once
        from the list of orders.
      </p>
      <Line label="Name" autoFocus most={60} value={name} onType={setName} />
    </Ask>
  );
}
