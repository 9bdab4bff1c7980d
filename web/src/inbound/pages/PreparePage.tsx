import type { OpenedPreparing } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useLayoutEffect } from 'react';
import { Link, useSearchParams } from 'react-router';
import { day } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { useMe } from '../../people/useMe.js';
import benchCss from '../../scans/bench.module.css';
import handCss from '../../scans/hand.module.css';
import { useOnward } from '../../scans/useOnward.js';
import { type NotOpened, useOpening } from '../../scans/useOpening.js';
import { HandWaiting } from '../../shell/HandBoard.js';
import { openPreparing, toPrepareQuery } from '../api.js';
import { OF_BENCH, PrepareBoard } from '../parts/PrepareBoard.js';

/** Preparing units for a fulfillment center: a shipment is opened by its number, then each piece says what it needs. */
export default function PreparePage() {
  useTitle('Preparing');
  const [asked, setAsked] = useSearchParams();
  const onward = useOnward();
  const { opened, problem, open, early, leave } = useOpening<OpenedPreparing>(async (code, waiting) => {
    if (!OF_BENCH.test(code)) return await openPreparing(code);
    await onward('/bench', [code, ...waiting.splice(0)]);
    return null;
  });
  const at = asked.get('at');
  // Before anything that was scanned for this page is taken: it goes into what is opened.
  useLayoutEffect(() => {
    if (!at) return;
    setAsked({}, { replace: true });
    open(at);
  }, [at, open, setAsked]);
  return (
    <div className={benchCss.bench}>
      {opened ? (
        <PrepareBoard key={opened.sessionId} opened={opened} open={open} early={early} leave={leave} />
      ) : (
        <Waiting problem={problem} open={open} />
      )}
    </div>
  );
}

/** No shipment is open: those that wait. */
function Waiting({ problem, open }: { problem: NotOpened | null; open: (code: string) => void }) {
  const me = useMe();
  const waiting = useQuery(toPrepareQuery);
  return (
    <HandWaiting
      title="Preparing"
      problem={problem}
      open={open}
      wants={['Scan the number of a shipment', 'The number of a shipment, such as IN-77.']}
      end={
        <Link className={benchCss.end} to={me.role === 'packer' ? '/bench' : '/inbound'}>
          {me.role === 'packer' ? 'Bench' : 'Inbound'}
        </Link>
      }
    >
      <div className={handCss.open}>
        {waiting.data?.map(s => (
          <Button key={s.no} variant="outlined" onClick={() => open(s.no)}>
            <span>
              <span className={textCss.code}>{s.no}</span> · {s.name} to {s.network},{' '}
              {count(s.units - s.prepared, 'unit')} to prepare{s.shipDay && ` · leaves ${day(s.shipDay)}`}
            </span>
          </Button>
        ))}
      </div>
      {waiting.isSuccess && waiting.data.length === 0 && (
        <span className={benchCss.plain}>
          No shipment waits. Those that are reserved and have units to label, bag or wrap come here.
        </span>
      )}
    </HandWaiting>
  );
}
