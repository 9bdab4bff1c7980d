import { can } from '@auk/contract';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { wordsOf } from '../../api.js';
import { useMe } from '../../people/useMe.js';
import { OfflineNote } from '../../scans/AnswerBar.js';
import { listFor } from '../api.js';
import css from '../packing.module.css';

/** What the order wants and is not here, and a list to fetch it by. */
export function Lacking({ lacks, orderId, listed }: { lacks: string; orderId: string; listed: () => void }) {
  const me = useMe();
  const [says, setSays] = useState('');
  const [busy, setBusy] = useState(false);
  const onList = /\(PL-\d+\)/.test(lacks);
  const release = async () => {
    setBusy(true);
    try {
      setSays(`${await listFor(orderId, me.id)} is set aside for you: open it on the Floor.`);
      listed();
    } catch (error) {
      const { says, cure } = wordsOf(error);
      setSays(`${says} ${cure}`);
    }
    setBusy(false);
  };
  return (
    <section className={css.lacking}>
      <h2>▲ Not here yet</h2>
      <p>{lacks}</p>
      {!onList && can(me, 'lists.release') && (
        <Button variant="outlined" disabled={busy} onClick={() => void release()}>
          Make a list, I fetch it
        </Button>
      )}
      {says && <OfflineNote words={says} />}
    </section>
  );
}
