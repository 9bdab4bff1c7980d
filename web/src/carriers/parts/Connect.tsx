import { type CarrierView, ConnectCarrier } from '@auk/contract';
import { parseWeight } from '@auk/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { weight as weightWords } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import { say } from '../../parts/say.js';
import { Tick } from '../../parts/Tick.js';
import { carrierKindsQuery, connectCarrier } from '../api.js';

/** What is typed of how a carrier is reached, read as the server will read it, and keeping it. */
function useConnection(c: CarrierView | null, leave: () => void) {
  const client = useQueryClient();
  const [typed, setTyped] = useState({
    code: c?.code ?? '',
    name: c?.name ?? '',
    kind: c?.kind ?? 'plain',
    address: c?.address ?? '',
    key: '',
    inUse: c?.inUse ?? true,
    latin: c?.latin ?? false,
    upTo: c?.planUpToMg == null ? '' : weightWords(c.planUpToMg),
  });
  const { upTo, ...rest } = typed;
  const weight = upTo.trim() === '' ? null : parseWeight(upTo);
  const read = ConnectCarrier.safeParse({ ...rest, planUpToMg: weight?.ok ? weight.value : null });
  const save = useMutation({
    mutationFn: () => connectCarrier(read.data!),
    onSuccess: async () => {
      say(`${typed.name} is connected.`);
      await changed(client, 'carriers');
      leave();
    },
  });
  const set = (change: Partial<typeof typed>) => setTyped({ ...typed, ...change });
  return { typed, set, weight, ready: read.success && weight?.ok !== false, save };
}

/** How a carrier is reached; a new one, or one that is there. */
export function Connect({ carrier: c, leave }: { carrier: CarrierView | null; leave: () => void }) {
  const kinds = useQuery(carrierKindsQuery);
  const { typed, set, weight, ready, save } = useConnection(c, leave);
  const about = kinds.data?.find(k => k.kind === typed.kind)?.about;
  return (
    <Ask
      title={c ? `How ${c.name} is reached` : 'Connect a carrier'}
      act="Keep it"
      ready={ready}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => save.mutate()}
    >
      {!c && (
        <Line
          label="Code"
          autoFocus
          value={typed.code}
          hint="small letters, digits, dashes"
          onType={code => set({ code })}
        />
      )}
      <Line label="Name" value={typed.name} onType={name => set({ name })} />
      <Choice
        label="How it speaks"
        value={typed.kind}
        options={kinds.data?.map(k => [k.kind, k.name] as const) ?? [[typed.kind, typed.kind]]}
        onChoose={kind => set({ kind })}
        fullWidth
      />
      {about && <p>{about}</p>}
      <Line label="Address" value={typed.address} onType={address => set({ address })} />
      <Line
        label={c ? 'Key (empty keeps the one that is there)' : 'Key'}
        password
        value={typed.key}
        onType={key => set({ key })}
      />
      <Line
        label="Orders up to this weight are planned with it"
        value={typed.upTo}
        hint="such as 5 lb; empty: none, before a label is bought"
        wrong={weight && !weight.ok ? weight.problem : null}
        onType={upTo => set({ upTo })}
      />
      <Tick
        label="takes addresses in Latin letters only"
        checked={typed.latin}
        onTick={latin => set({ latin })}
      />
      <Tick label="in use" checked={typed.inUse} onTick={inUse => set({ inUse })} />
    </Ask>
  );
}
