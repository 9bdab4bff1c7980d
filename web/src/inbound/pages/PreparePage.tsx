import type { OpenedPreparing } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { day } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { useMe } from '../../people/useMe.js';
import { AnswerBar, OfflineNote } from '../../scans/AnswerBar.js';
import benchCss from '../../scans/bench.module.css';
import handCss from '../../scans/hand.module.css';
import { Unsent } from '../../scans/Unsent.js';
import { type NotOpened, useOpening } from '../../scans/useOpening.js';
import { useScanner } from '../../scans/useScanner.js';
import { Who } from '../../shell/Who.js';
import { useQuiet } from '../../update.js';
import { openPreparing, toPrepareQuery } from '../api.js';
import { PrepareBoard } from '../parts/PrepareBoard.js';

/** Preparing units for a fulfillment center: a shipment is opened by its number, then each piece says what it needs. */
export default function PreparePage() {
  useTitle('Preparing');
  const [asked, setAsked] = useSearchParams();
  const { opened, problem, open, early, leave } = useOpening<OpenedPreparing>(openPreparing);
  const at = asked.get('at');
  useEffect(() => {
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

/** No shipment is open: those that wait, and what was refused. */
function Waiting({ problem, open }: { problem: NotOpened | null; open: (code: string) => void }) {
  const me = useMe();
  const [typed, setTyped] = useState('');
  const waiting = useQuery(toPrepareQuery);
  useQuiet();
  useScanner(open, { typed: true, onTyping: setTyped });
  return (
    <div className={`${benchCss.edge} ${problem ? benchCss.wrong : ''}`}>
      <header className={benchCss.bhead}>
        <h1>Preparing</h1>
        <Unsent />
        <Link className={benchCss.end} to={me.role === 'packer' ? '/bench' : '/inbound'}>
          {me.role === 'packer' ? 'Bench' : 'Inbound'}
        </Link>
        <Who />
      </header>
      <main className={benchCss.wait}>
        <b>Scan the number of a shipment</b>
        {typed && <OfflineNote words={typed} />}
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
      </main>
      <AnswerBar
        where="foot"
        answer={
          problem
            ? { says: problem.says, next: problem.cure, tone: 'wrong', times: problem.times }
            : { says: 'Ready.', next: 'The number of a shipment, such as IN-77.', tone: 'info' }
        }
      />
    </div>
  );
}
