import { useState } from 'react';
import { v7 } from 'uuid';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { beginShipment } from '../api.js';
import { useAct } from '../useAct.js';
import { SOURCES, STORAGES } from '../words.js';

interface Props {
  networks: readonly string[];
  leave: () => void;
  begun: (no: string) => void;
}

/** Begins a shipment: to whom, from where, for which storage. */
export function NewShipment({ networks, leave, begun }: Props) {
  const [key] = useState(() => v7());
  const [network, setNetwork] = useState(networks[0] ?? '');
  const [source, setSource] = useState<(typeof SOURCES)[number][0]>('house');
  const [storage, setStorage] = useState<(typeof STORAGES)[number][0]>('near');
  const begin = useAct(
    () => beginShipment({ key, network, source, storage }),
    ({ no }) => begun(no),
  );
  return (
    <Ask
      title="New shipment to a center"
      act="Begin it"
      ready={network !== ''}
      busy={begin.isPending}
      error={begin.error}
      onAct={() => begin.mutate()}
      onLeave={leave}
    >
      {networks.length === 0 && <p>No network is connected yet: connect one under Receiving.</p>}
      <Choice
        label="Network"
        fullWidth
        value={network}
        options={networks.map(n => [n, n] as const)}
        onChoose={setNetwork}
      />
      <Choice label="Comes from" fullWidth value={source} options={SOURCES} onChoose={setSource} />
      <Choice label="Storage there" fullWidth value={storage} options={STORAGES} onChoose={setStorage} />
    </Ask>
  );
}
