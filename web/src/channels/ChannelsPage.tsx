import { ChannelKind, ChannelTrouble, ChannelView, can, Person } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { DateTime } from 'luxon';
import { useState } from 'react';
import { Link } from 'react-router';
import { get, send } from '../api.js';
import { Ask } from '../parts/ask.js';
import { clock, moment, span } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import { SetupNav } from '../setup/SetupNav.js';
import './channels.css';

/** The channels: how each is connected, what its last round brought, what went wrong, and when it is asked next. */
export default function ChannelsPage({ me }: { me: Person }) {
  const client = useQueryClient();
  const [editing, setEditing] = useState<ChannelView | null>(null);
  const channels = useQuery({ queryKey: ['channels'], queryFn: () => get(ChannelView.array(), 'channels') });
  const pull = useMutation({
    mutationFn: (code: string) => send(`channels/${code}/pull`),
    onSuccess: () => client.invalidateQueries({ queryKey: ['channels'] }),
  });
  const lead = can(me, 'channels.connect');
  const connected = channels.data?.filter(c => c.link) ?? [];
  const others = channels.data?.filter(c => !c.link) ?? [];
  return (
    <>
      <SetupNav />
      <ProblemNote error={channels.error ?? pull.error} />
      <div className="channels">
        {connected.map(c => (
          <Channel
            key={c.code}
            channel={c}
            pull={() => pull.mutate(c.code)}
            edit={lead ? () => setEditing(c) : null}
          />
        ))}
      </div>
      {others.length > 0 && (
        <p className="quiet">
          Not connected:{' '}
          {others.map(c => (
            <span key={c.code}>
              {c.name}{' '}
              {lead && c.code !== 'hand' && (
                <Button size="small" onClick={() => setEditing(c)}>
                  Connect
                </Button>
              )}
            </span>
          ))}
        </p>
      )}
      {editing && <Connect channel={editing} leave={() => setEditing(null)} />}
    </>
  );
}

function Channel({
  channel: c,
  pull,
  edit,
}: {
  channel: ChannelView;
  pull: () => void;
  edit: (() => void) | null;
}) {
  const l = c.link!;
  const [shape, words, tone] = l.doing
    ? ['◔', l.doing, 'tide']
    : !l.active
      ? ['❚❚', 'switched off', '']
      : l.error
        ? ['▲', l.error, 'stop']
        : l.succeededAt
          ? ['✓', 'all is well', 'good']
          : ['○', 'not asked yet', ''];
  const counts = l.lastCounts;
  return (
    <section className="channel" aria-label={c.name}>
      <div>
        <h2>{c.name}</h2>
        <p className="quiet">
          {c.brand}, {c.currency}
        </p>
      </div>
      <div>
        <p className={tone} role="status">
          <span aria-hidden="true">{shape}</span> {words}
        </p>
        {counts && (
          <p className="quiet">
            {counts.new} new, {counts.changed} changed, {counts.same} the same
            {counts.unreadable! > 0 && <b className="stop"> {counts.unreadable} unreadable</b>}
          </p>
        )}
        <Trouble code={c.code} on={(counts?.unreadable ?? 0) > 0} />
      </div>
      <div className="quiet">
        <p>{l.succeededAt ? `last success ${moment(l.succeededAt)}` : 'no success yet'}</p>
        {l.error && l.triedAt && <p>last try {moment(l.triedAt)}</p>}
        <p>
          every {span(l.everyMinutes)}, next {clock(DateTime.fromISO(l.nextPullAt).toUTC().toISO()!)}
        </p>
      </div>
      <div className="quiet">
        <p>
          {count(c.listings, 'listing')},{' '}
          {c.unlinked > 0 ? (
            <Link className="stop" to={`/products/listings?channel=${c.code}`}>
              {c.unlinked} unlinked
            </Link>
          ) : (
            'all linked'
          )}
        </p>
        <p className={l.pushError ? 'stop' : ''}>
          {l.pushError
            ? `▲ stock: ${l.pushError}`
            : l.pushedAt
              ? `stock told ${moment(l.pushedAt)}`
              : 'stock not told yet'}
        </p>
        <p className="code small cut" title={l.address}>
          {l.address.replace(/^https?:\/\//, '')} ·{' '}
          {l.keyEnds === null ? '▲ key cannot be opened, enter it again' : `key …${l.keyEnds}`}
        </p>
      </div>
      <div className="acts">
        <Button size="small" variant="outlined" disabled={l.doing !== null || !l.active} onClick={pull}>
          {l.doing ? 'Pulling …' : 'Pull now'}
        </Button>
        {edit && (
          <Button size="small" onClick={edit}>
            Change
          </Button>
        )}
      </div>
    </section>
  );
}

function Trouble({ code, on }: { code: string; on: boolean }) {
  const trouble = useQuery({
    queryKey: ['channels', 'trouble', code],
    queryFn: () => get(ChannelTrouble.array(), `channels/${code}/trouble`),
    enabled: on,
  });
  return (
    <>
      {trouble.data?.slice(0, 5).map(t => (
        <p key={t.number} className="small stop">
          <span className="code">{t.number}</span> {t.why}
        </p>
      ))}
    </>
  );
}

function Connect({ channel: c, leave }: { channel: ChannelView; leave: () => void }) {
  const client = useQueryClient();
  const kinds = useQuery({
    queryKey: ['channels', 'kinds'],
    queryFn: () => get(ChannelKind.array(), 'channels/kinds'),
  });
  const [kind, setKind] = useState(c.link?.kind ?? 'cursor');
  const [address, setAddress] = useState(c.link?.address ?? '');
  const [key, setKey] = useState('');
  const [every, setEvery] = useState(String(c.link?.everyMinutes ?? 10));
  const [active, setActive] = useState(c.link?.active ?? true);
  const save = useMutation({
    mutationFn: () =>
      send(`channels/${c.code}/connect`, { kind, address, key, everyMinutes: Number(every), active }),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['channels'] });
      leave();
    },
  });
  return (
    <Ask
      title={`Connect ${c.name}`}
      act="Connect"
      ready={address.trim() !== '' && (key !== '' || c.link !== null)}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => save.mutate()}
    >
      <TextField
        label="Address"
        fullWidth
        autoFocus
        margin="dense"
        value={address}
        onChange={e => setAddress(e.target.value)}
      />
      <TextField
        label={c.link?.keyEnds ? `Key (kept, ends with ${c.link.keyEnds})` : 'Key'}
        fullWidth
        margin="dense"
        type="password"
        autoComplete="off"
        value={key}
        onChange={e => setKey(e.target.value)}
      />
      <p style={{ margin: '12px 0' }}>
        Its habit:{' '}
        <select aria-label="Habit" value={kind} onChange={e => setKind(e.target.value)}>
          {kinds.data?.map(k => (
            <option key={k.kind} value={k.kind}>
              {k.words}
            </option>
          ))}
        </select>
      </p>
      <TextField
        label="Ask every … minutes"
        type="number"
        margin="dense"
        value={every}
        onChange={e => setEvery(e.target.value)}
      />
      <p>
        <label>
          <input type="checkbox" checked={active} onChange={e => setActive(e.target.checked)} /> ask it
        </label>
      </p>
    </Ask>
  );
}
