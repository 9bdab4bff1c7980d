import { can, type MailTemplateView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { channelsQuery } from '../../channels/api.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import { SetupNav } from '../../setup/parts/SetupNav.js';
import { mailsQuery, removeTemplate, sendAgain } from '../api.js';
import css from '../mails.module.css';
import { Alerts } from '../parts/Alerts.js';
import { Brands } from '../parts/Brands.js';
import { EditTemplate } from '../parts/EditTemplate.js';
import { Way } from '../parts/Way.js';
import { MOMENTS } from '../words.js';

/** What buyers and staff are told by mail, and how it looks. */
export default function MailsPage() {
  const may = can(useMe(), 'mails.change');
  const client = useQueryClient();
  const mails = useQuery({ ...mailsQuery, enabled: may });
  const channels = useQuery(channelsQuery);
  const [editing, setEditing] = useState<MailTemplateView | 'new' | null>(null);
  const after = () => changed(client, 'mails');
  const remove = useMutation({ mutationFn: removeTemplate, onSuccess: after });
  const again = useMutation({ mutationFn: sendAgain, onSuccess: after });
  const nameOf = (code: string) => channels.data?.find(c => c.code === code)?.name ?? code;
  if (!may)
    return (
      <>
        <SetupNav />
        <Head title="Mails" about="The lead keeps what is told by mail." />
      </>
    );
  if (!mails.data) return <Waiting error={mails.error} />;
  const m = mails.data;
  return (
    <>
      <SetupNav />
      <Head
        title="Mails"
        about="What buyers are told as their order goes its way, in the look of the shop they bought from."
      >
        <Button variant="outlined" color="secondary" onClick={() => setEditing('new')}>
          New mail
        </Button>
      </Head>
      <ProblemNote error={remove.error ?? again.error} />
      {m.waiting > 0 && <p className={textCss.quiet}>◌ {count(m.waiting, 'mail')} wait to be sent.</p>}
      {m.bounced.map(b => (
        <div key={b.id} className={css.bounced}>
          <span>
            <b className={textCss.stop}>▲ came back</b> “{b.subject}” to {b.to}{' '}
            {b.order && <span className={textCss.code}>{b.order}</span>}
            <div className={textCss.quiet}>{b.why}</div>
          </span>
          <Button size="small" variant="outlined" onClick={() => again.mutate(b.id)}>
            Send again
          </Button>
        </div>
      ))}
      <div className={pageCss.withside}>
        <div className={css.templates}>
          {[...m.templates]
            .sort((a, b) => ORDER.indexOf(a.moment) - ORDER.indexOf(b.moment))
            .map(t => (
              <section key={t.id} className={t.inUse ? '' : css.off}>
                <b>
                  {t.name ? `“${t.name}”, when` : 'When'} {MOMENTS[t.moment]}
                </b>{' '}
                <span className={textCss.quiet}>
                  {t.channel ? `for ${nameOf(t.channel)}` : 'for every channel'}
                  {t.inUse ? '' : ' · ○ off'}
                </span>
                <div>{t.subject}</div>
                <p className={`${textCss.quiet} ${css.text}`}>{t.text}</p>
                <Button size="small" onClick={() => setEditing(t)}>
                  Change
                </Button>
                <Button size="small" onClick={() => remove.mutate(t.id)}>
                  Take away
                </Button>
              </section>
            ))}
        </div>
        <aside className={pageCss.side}>
          <Way way={m.way} done={after} />
          <Brands brands={m.brands} nameOf={nameOf} done={after} />
          <Alerts alerts={m.alerts} channels={channels.data ?? []} done={after} />
        </aside>
      </div>
      {editing && (
        <EditTemplate
          template={editing === 'new' ? null : editing}
          channels={channels.data ?? []}
          done={after}
          leave={() => setEditing(null)}
        />
      )}
    </>
  );
}

const ORDER = Object.keys(MOMENTS);
