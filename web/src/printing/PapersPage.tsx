import { ChannelView, can, PaperTemplate, Person } from '@auk/contract';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { get, send } from '../api.js';
import { Ask } from '../parts/ask.js';
import { ProblemNote } from '../parts/problem.js';
import { SetupNav } from '../setup/SetupNav.js';
import '../channels/channels.css';

const KINDS: ['slip' | 'invoice', string][] = [
  ['slip', 'Slips'],
  ['invoice', 'Invoices'],
];
const NEW = (kind: 'slip' | 'invoice', position: number): Omit<PaperTemplate, 'id'> => ({
  kind,
  name: '',
  position,
  channel: '',
  country: '',
  heading: '',
  message: '',
  prices: kind === 'invoice',
  metric: false,
});

/** How slips and invoices look, by channel and destination: the first that fits counts, from the top. */
export default function PapersPage({ me }: { me: Person }) {
  const client = useQueryClient();
  const [editing, setEditing] = useState<(Omit<PaperTemplate, 'id'> & { id?: string }) | null>(null);
  const templates = useQuery({
    queryKey: ['templates'],
    queryFn: () => get(PaperTemplate.array(), 'printing/templates'),
  });
  const channels = useQuery({ queryKey: ['channels'], queryFn: () => get(ChannelView.array(), 'channels') });
  const again = () => client.invalidateQueries({ queryKey: ['templates'] });
  const remove = useMutation({
    mutationFn: (id: string) => send(`printing/templates/${id}/remove`),
    onSuccess: again,
  });
  const lead = can(me, 'papers.change');
  const nameOf = (code: string) => channels.data?.find(c => c.code === code)?.name ?? code;
  return (
    <>
      <SetupNav />
      <p className="quiet" style={{ marginBottom: 16 }}>
        The first that fits an order counts, from the top. Where none fits, the paper is plain.
      </p>
      <ProblemNote error={templates.error ?? remove.error} />
      <div className="papers">
        {KINDS.map(([kind, words]) => {
          const rows = templates.data?.filter(t => t.kind === kind) ?? [];
          return (
            <section key={kind}>
              <h2>{words}</h2>
              {rows.map(t => (
                <div key={t.id} className="paper">
                  <b>{t.name}</b> for {t.channel ? nameOf(t.channel) : 'every channel'},{' '}
                  {t.country === '' ? 'every country' : t.country === 'abroad' ? 'abroad' : t.country}
                  <p className="quiet">
                    {t.prices ? 'with prices' : 'without prices'}
                    {t.heading && `, headed “${t.heading}”`}
                  </p>
                  <p className="quiet">{t.message}</p>
                  {lead && (
                    <>
                      <Button size="small" onClick={() => setEditing(t)}>
                        Change
                      </Button>
                      <Button size="small" onClick={() => remove.mutate(t.id)}>
                        Take away
                      </Button>
                    </>
                  )}
                </div>
              ))}
              {lead && (
                <Button variant="outlined" onClick={() => setEditing(NEW(kind, rows.length))}>
                  New {kind}
                </Button>
              )}
            </section>
          );
        })}
      </div>
      {editing && (
        <Edit
          template={editing}
          channels={channels.data ?? []}
          leave={() => setEditing(null)}
          done={() => void again()}
        />
      )}
    </>
  );
}

function Edit({
  template,
  channels,
  leave,
  done,
}: {
  template: Omit<PaperTemplate, 'id'> & { id?: string };
  channels: ChannelView[];
  leave: () => void;
  done: () => void;
}) {
  const [t, setT] = useState(template);
  const put = (more: Partial<PaperTemplate>) => setT({ ...t, ...more });
  const save = useMutation({
    mutationFn: () => send('printing/templates', t),
    onSuccess: () => {
      done();
      leave();
    },
  });
  return (
    <Ask
      title={t.id ? `Change ${template.name}` : `New ${t.kind}`}
      act="Save"
      ready={t.name.trim() !== ''}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => save.mutate()}
    >
      <TextField
        label="Name"
        fullWidth
        autoFocus
        margin="dense"
        value={t.name}
        onChange={e => put({ name: e.target.value })}
      />
      <p style={{ margin: '12px 0' }}>
        for{' '}
        <select aria-label="Channel" value={t.channel} onChange={e => put({ channel: e.target.value })}>
          <option value="">every channel</option>
          {channels.map(c => (
            <option key={c.code} value={c.code}>
              {c.name}
            </option>
          ))}
        </select>{' '}
        going to{' '}
        <input
          aria-label="Country"
          placeholder="every country"
          style={{ width: 130 }}
          value={t.country}
          onChange={e => put({ country: e.target.value === 'abroad' ? 'abroad' : e.target.value })}
        />
      </p>
      <p className="quiet">A country code such as US, or the word abroad. Empty is every country.</p>
      <TextField
        label="Heading (empty: the channel’s brand)"
        fullWidth
        margin="dense"
        value={t.heading}
        onChange={e => put({ heading: e.target.value })}
      />
      <TextField
        label="Words at the foot"
        fullWidth
        multiline
        minRows={2}
        margin="dense"
        value={t.message}
        onChange={e => put({ message: e.target.value })}
      />
      <p>
        <label>
          <input type="checkbox" checked={t.prices} onChange={e => put({ prices: e.target.checked })} /> with
          prices
        </label>{' '}
        <label>
          at place{' '}
          <input
            type="number"
            aria-label="Place in the order"
            min={0}
            style={{ width: 60 }}
            value={t.position}
            onChange={e => put({ position: Number(e.target.value) })}
          />
        </label>
      </p>
    </Ask>
  );
}
