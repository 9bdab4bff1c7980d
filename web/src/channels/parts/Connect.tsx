import { ChannelView } from '@auk/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { Line } from '../../parts/Line.js';
import { say } from '../../parts/say.js';
import { Tick } from '../../parts/Tick.js';
import { channelsQuery, connectChannel, kindsQuery } from '../api.js';

export function Connect({ channel: c, leave }: { channel: ChannelView; leave: () => void }) {
  const client = useQueryClient();
  const kinds = useQuery(kindsQuery);
  const [kind, setKind] = useState(c.link?.kind ?? 'cursor');
  const [address, setAddress] = useState(c.link?.address ?? '');
  const [key, setKey] = useState('');
  const [every, setEvery] = useState(String(c.link?.everyMinutes ?? 10));
  const [active, setActive] = useState(c.link?.active ?? true);
  const save = useMutation({
    mutationFn: () => connectChannel(c.code, { kind, address, key, everyMinutes: Number(every), active }),
    onSuccess: () => {
      say(`${c.name} is connected.`);
      void client.invalidateQueries(channelsQuery);
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
      <Line label="Address" autoFocus value={address} onType={setAddress} />
      <Line
        label={c.link?.keyEnds ? `Key (kept, ends with ${c.link.keyEnds})` : 'Key'}
        password
        value={key}
        onType={setKey}
      />
      <Choice
        label="Habit"
        value={kind}
        options={kinds.data?.map(k => [k.kind, k.words] as const) ?? [[kind, '']]}
        onChoose={setKind}
      />
      <Line label="Ask every … minutes" digits most={4} width={10} value={every} onType={setEvery} />
      <Tick label="ask it" checked={active} onTick={setActive} />
    </Ask>
  );
}
