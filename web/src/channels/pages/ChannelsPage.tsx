import { ChannelView, can } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { SetupNav } from '../../setup/parts/SetupNav.js';
import { channelsQuery, pullChannel } from '../api.js';
import css from '../channels.module.css';
import { Channel } from '../parts/Channel.js';
import { Connect } from '../parts/Connect.js';

/** The channels: how each is connected, what its last round brought, what went wrong, and when it is asked next. */
export default function ChannelsPage() {
  const me = useMe();
  const client = useQueryClient();
  const [editing, setEditing] = useState<ChannelView | null>(null);
  const channels = useQuery(channelsQuery);
  const pull = useMutation({
    mutationFn: pullChannel,
    onSuccess: () => client.invalidateQueries(channelsQuery),
  });
  const lead = can(me, 'channels.connect');
  const connected = channels.data?.filter(c => c.link) ?? [];
  // What is typed in and what is built come from within the house: there is nothing to connect.
  const others = channels.data?.filter(c => !c.link && !c.own) ?? [];
  return (
    <>
      <SetupNav />
      <Head
        title="Channels"
        about="Where orders come from. Each is asked by itself, again and again, and told what left and what there is."
      />
      <ProblemNote error={channels.error ?? pull.error} />
      <div>
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
        <p className={css.others}>
          <span className={textCss.quiet}>Not connected:</span>
          {others.map(c =>
            lead ? (
              <Button
                key={c.code}
                size="small"
                variant="outlined"
                color="secondary"
                onClick={() => setEditing(c)}
              >
                Connect {c.name}
              </Button>
            ) : (
              <span key={c.code}>{c.name}</span>
            ),
          )}
        </p>
      )}
      {editing && <Connect channel={editing} leave={() => setEditing(null)} />}
    </>
  );
}
