import { OpenedHeap } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { clock } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { useMe } from '../../people/useMe.js';
import benchCss from '../../scans/bench.module.css';
import handCss from '../../scans/hand.module.css';
import { type NotOpened, useOpening } from '../../scans/useOpening.js';
import { HandWaiting } from '../../shell/HandBoard.js';
import { heapsQuery, openHeap } from '../api.js';
import { WallBoard } from '../parts/WallBoard.js';

/** The put wall: a heap is opened by what it lies on, then each piece says its cell. */
export default function WallPage() {
  useTitle('Put wall');
  const { opened, problem, open, early, leave } = useOpening<OpenedHeap>(code => openHeap(code, null));
  return (
    <div className={benchCss.bench}>
      {opened ? (
        <WallBoard key={opened.sessionId} opened={opened} open={open} early={early} leave={leave} />
      ) : (
        <Waiting problem={problem} open={open} />
      )}
    </div>
  );
}

/** No heap is open: those that wait. */
function Waiting({ problem, open }: { problem: NotOpened | null; open: (code: string) => void }) {
  const me = useMe();
  const heaps = useQuery(heapsQuery);
  return (
    <HandWaiting
      title="Put wall"
      problem={problem}
      open={open}
      wants={['Scan the trolley of a heap', 'The trolley or tote that a heap lies on, or its list.']}
      end={
        me.role !== 'picker' && (
          <Link className={benchCss.end} to="/board">
            Board
          </Link>
        )
      }
    >
      <div className={handCss.open}>
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
    </HandWaiting>
  );
}
