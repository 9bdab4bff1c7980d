import { OpenedHeap } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsOf } from '../../api.js';
import { clock } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { useMe } from '../../people/useMe.js';
import { AnswerBar, OfflineNote } from '../../scans/AnswerBar.js';
import benchCss from '../../scans/bench.module.css';
import { playTone } from '../../scans/sounds.js';
import { Unsent } from '../../scans/Unsent.js';
import { useScanner } from '../../scans/useScanner.js';
import { Who } from '../../shell/Who.js';
import { useQuiet } from '../../update.js';
import { heapsQuery, openHeap } from '../api.js';
import { WallBoard } from '../parts/WallBoard.js';
import css from '../sorting.module.css';

/** The put wall: a heap is opened by what it lies on, then each piece says its cell. */
export default function WallPage() {
  useTitle('Put wall');
  const [opened, setOpened] = useState<OpenedHeap | null>(null);
  const opening = useMutation({
    mutationFn: (code: string) => openHeap(code, null),
    onSuccess: got => {
      setOpened(got);
      playTone('right');
    },
    onError: () => {
      setOpened(null);
      playTone('wrong');
    },
  });
  return (
    <div className={benchCss.bench}>
      {opened ? (
        <WallBoard
          key={opened.sessionId}
          opened={opened}
          open={opening.mutate}
          leave={() => setOpened(null)}
        />
      ) : (
        <Waiting error={opening.error} open={opening.mutate} />
      )}
    </div>
  );
}

/** No heap is open: those that wait, and what was refused. */
function Waiting({ error, open }: { error: Error | null; open: (code: string) => void }) {
  const me = useMe();
  const [typed, setTyped] = useState('');
  const heaps = useQuery(heapsQuery);
  useQuiet();
  useScanner(open, { typed: true, onTyping: setTyped });
  const refused = error && wordsOf(error);
  return (
    <div className={`${benchCss.edge} ${refused ? benchCss.wrong : ''}`}>
      <header className={benchCss.bhead}>
        <h1>Put wall</h1>
        <Unsent />
        {me.role !== 'picker' && (
          <Link className={benchCss.end} to="/board">
            Board
          </Link>
        )}
        <Who />
      </header>
      <main className={benchCss.wait}>
        <b>Scan the trolley of a heap</b>
        {typed && <OfflineNote words={typed} />}
        <div className={css.heaps}>
          {heaps.data?.map(h => (
            <Button key={h.list} variant="outlined" onClick={() => open(h.list)}>
              <span>
                <span className={textCss.code}>{h.code}</span> · {h.mark}, {count(h.orders, 'order')},{' '}
                {count(h.units - h.sorted, 'piece')} to sort{h.cutOff && ` · leaves ${clock(h.cutOff)}`}
              </span>
            </Button>
          ))}
        </div>
        {heaps.isSuccess && heaps.data.length === 0 && (
          <span className={benchCss.plain}>No heap waits. Lists that are picked as heaps come here.</span>
        )}
      </main>
      <AnswerBar
        where="foot"
        answer={
          refused
            ? { says: refused.says, next: refused.cure, tone: 'wrong' }
            : { says: 'Ready.', next: 'The trolley or tote that a heap lies on, or its list.', tone: 'info' }
        }
      />
    </div>
  );
}
