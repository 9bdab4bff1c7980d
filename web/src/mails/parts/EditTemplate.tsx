import {
  type ChannelView,
  MAIL_MOMENTS,
  MAIL_WORDS,
  type MailMoment,
  MailTemplateIn,
  type MailTemplateView,
} from '@auk/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { Line } from '../../parts/Line.js';
import { say } from '../../parts/say.js';
import { Tick } from '../../parts/Tick.js';
import { saveTemplate } from '../api.js';
import css from '../mails.module.css';
import { MOMENTS } from '../words.js';

interface Props {
  template: MailTemplateView | null;
  channels: ChannelView[];
  done: () => Promise<unknown>;
  leave: () => void;
}

/** One mail: when it is sent, for which channel, and what it says. */
export function EditTemplate({ template, channels, done, leave }: Props) {
  const [t, setT] = useState<MailTemplateIn>(
    template ?? { name: '', moment: 'departed', channel: '', inUse: true, subject: '', text: '' },
  );
  const put = (more: Partial<MailTemplateIn>) => setT({ ...t, ...more });
  const read = MailTemplateIn.safeParse(t);
  const wrong = (field: 'subject' | 'text') =>
    t[field] === '' ? null : (read.error?.issues.find(i => i.path[0] === field)?.message ?? null);
  const save = useMutation({
    mutationFn: () => saveTemplate(t),
    onSuccess: async () => {
      await done();
      say('The mail is saved.');
      leave();
    },
  });
  return (
    <Ask
      title={template ? 'Change the mail' : 'New mail'}
      act="Save"
      ready={read.success}
      busy={save.isPending}
      error={save.error}
      onAct={() => save.mutate()}
      onLeave={leave}
    >
      <Choice
        label="Sent when"
        value={t.moment}
        options={MAIL_MOMENTS.map(m => [m, MOMENTS[m]] as const)}
        onChoose={(moment: MailMoment) => put({ moment, ...(moment !== 'rule' && { name: '' }) })}
      />
      {t.moment === 'rule' && (
        <Line label="Name, as rules call it" most={60} value={t.name} onType={name => put({ name })} />
      )}
      <Choice
        label="Channel"
        value={t.channel}
        options={[['', 'every channel'], ...channels.map(c => [c.code, c.name] as const)]}
        onChoose={channel => put({ channel })}
      />
      <Line
        label="Subject"
        most={150}
        value={t.subject}
        wrong={wrong('subject')}
        onType={subject => put({ subject })}
      />
      <Line
        label="Text"
        rows={7}
        most={3000}
        value={t.text}
        wrong={wrong('text')}
        onType={text => put({ text })}
      />
      <dl className={css.words}>
        {Object.entries(MAIL_WORDS).map(([word, words]) => (
          <div key={word} style={{ display: 'contents' }}>
            <dt>
              <code>{`{${word}}`}</code>
            </dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
      <Tick label="in use" checked={t.inUse} onTick={inUse => put({ inUse })} />
    </Ask>
  );
}
