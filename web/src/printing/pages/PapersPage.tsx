import { ChannelView, can, PaperTemplate, type TemplateKind } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { channelsQuery } from '../../channels/api.js';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { SetupNav } from '../../setup/parts/SetupNav.js';
import { removeTemplate, saveTemplate, templatesQuery } from '../api.js';
import css from '../papers.module.css';

const KINDS: [TemplateKind, words: string, one: string][] = [
  ['slip', 'Slips', 'slip'],
  ['invoice', 'Invoices', 'invoice'],
  ['customs', 'Customs declarations', 'declaration'],
  ['commercial', 'Commercial invoices', 'commercial invoice'],
  ['dangerous', 'Dangerous goods notes', 'note'],
];
const oneOf = (kind: TemplateKind) => KINDS.find(([k]) => k === kind)![2];
const NEW = (kind: TemplateKind, position: number): Omit<PaperTemplate, 'id'> => ({
  kind,
  name: '',
  position,
  channel: '',
  country: '',
  buyer: '',
  heading: '',
  message: '',
  prices: kind === 'invoice',
  metric: false,
});

/** How slips and invoices look, by channel and destination: the first that fits counts, from the top. */
export default function PapersPage() {
  const me = useMe();
  const client = useQueryClient();
  const [editing, setEditing] = useState<(Omit<PaperTemplate, 'id'> & { id?: string }) | null>(null);
  const templates = useQuery(templatesQuery);
  const channels = useQuery(channelsQuery);
  const again = () => client.invalidateQueries(templatesQuery);
  const remove = useMutation({
    mutationFn: removeTemplate,
    onSuccess: again,
  });
  const lead = can(me, 'papers.change');
  const nameOf = (code: string) => channels.data?.find(c => c.code === code)?.name ?? code;
  return (
    <>
      <SetupNav />
      <Head
        title="Papers"
        about="The first that fits an order counts, from the top. Where none fits, the paper is plain."
      />
      <ProblemNote error={templates.error ?? remove.error} />
      <div className={css.papers}>
        {KINDS.map(([kind, words]) => {
          const rows = templates.data?.filter(t => t.kind === kind) ?? [];
          return (
            <section key={kind}>
              <h2>{words}</h2>
              {rows.map(t => (
                <div key={t.id} className={css.paper}>
                  <b>{t.name}</b> for {t.channel ? nameOf(t.channel) : 'every channel'},{' '}
                  {t.country === '' ? 'every country' : t.country === 'abroad' ? 'abroad' : t.country}
                  {t.buyer && `, buyers at ${t.buyer}`}
                  <p className={textCss.quiet}>
                    {t.prices ? 'with prices' : 'without prices'}
                    {t.heading && `, headed “${t.heading}”`}
                  </p>
                  <p className={textCss.quiet}>{t.message}</p>
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
                <Button
                  variant="outlined"
                  color="secondary"
                  onClick={() => setEditing(NEW(kind, rows.length))}
                >
                  New {oneOf(kind)}
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
    mutationFn: () => saveTemplate(t),
    onSuccess: () => {
      say(`${t.name} is saved.`);
      done();
      leave();
    },
  });
  return (
    <Ask
      title={t.id ? `Change ${template.name}` : `New ${oneOf(t.kind)}`}
      act="Save"
      ready={t.name.trim() !== ''}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => save.mutate()}
    >
      <Line label="Name" autoFocus value={t.name} onType={name => put({ name })} />
      <Choice
        label="Channel"
        value={t.channel}
        options={[['', 'every channel'], ...channels.map(c => [c.code, c.name] as const)]}
        onChoose={channel => put({ channel })}
      />
      <Line
        label="Country"
        placeholder="every country"
        hint="A country code such as US, or the word abroad. Empty is every country."
        value={t.country}
        onType={country => put({ country })}
      />
      <Line
        label="Buyer"
        placeholder="every buyer"
        hint="Letters that stand in the mail address, such as @guild.example."
        value={t.buyer}
        onType={buyer => put({ buyer })}
      />
      <Line
        label="Heading (empty: the channel’s brand)"
        value={t.heading}
        onType={heading => put({ heading })}
      />
      <Line label="Words at the foot" rows={2} value={t.message} onType={message => put({ message })} />
      <Tick label="with prices" checked={t.prices} onTick={prices => put({ prices })} />
      <Line
        label="Place in the order"
        digits
        most={3}
        width={8}
        value={String(t.position)}
        onType={text => put({ position: Number(text) })}
      />
    </Ask>
  );
}
