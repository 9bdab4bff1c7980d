import { type Answer, count } from '@auk/core';
import LinearProgress from '@mui/material/LinearProgress';
import { type ReactNode, type RefObject, useState } from 'react';
import pageCss from '../parts/page.module.css';
import textCss from '../parts/text.module.css';
import { AnswerBar, OfflineNote } from '../scans/AnswerBar.js';
import benchCss from '../scans/bench.module.css';
import handCss from '../scans/hand.module.css';
import { Unsent } from '../scans/Unsent.js';
import { type NotOpened, useEarly } from '../scans/useOpening.js';
import { useScanner } from '../scans/useScanner.js';
import type { ScanSession } from '../scans/useScanSession.js';
import { useQuiet } from '../update.js';
import { Who } from './Who.js';

const LEAVE = 'AUK-LEAVE';

/** What a board of opened work is given: what was opened, and how to go on. */
export interface AtHand<T> {
  opened: T;
  /** Opens another of its kind. */
  open: (code: string) => void;
  /** What was scanned while it was being opened. */
  early: RefObject<string[]>;
  leave: () => void;
}

interface BoardProps<S> extends Omit<AtHand<never>, 'opened'> {
  session: ScanSession<S>;
  /** What is open: a quiet word and what it is called; the last is a code. */
  heads: readonly [small: string, words: string][];
  /** Pieces that are left of all, what they are called, and what is done to them. */
  left: number;
  all: number;
  noun: string;
  act: [todo: string, done: string];
  /** What is said before anything is scanned. */
  says: Pick<Answer, 'says' | 'next'>;
  /** Codes that open another of its kind. */
  opens: RegExp;
  children: (scan: (text: string) => void) => ReactNode;
}

/** Work with one piece in hand after the other: what is open and how much is left of it above, the answer below. */
export function HandBoard<S>(p: BoardProps<S>) {
  const { session, left, all, noun } = p;
  const { answer } = session;
  const [typed, setTyped] = useState('');
  const scan = (text: string) => {
    if (p.opens.test(text.trim())) p.open(text.trim());
    else if (text.trim().toUpperCase() === LEAVE) p.leave();
    else session.scan(text);
  };
  useScanner(scan, { typed: true, onTyping: setTyped });
  useEarly(p.early, scan);
  return (
    <div className={`${benchCss.edge} ${answer ? benchCss[answer.tone] : ''}`}>
      <header className={benchCss.bhead}>
        {p.heads.map(([small, words], i) => (
          <div key={small}>
            <small>{small}</small>
            <b className={i === p.heads.length - 1 ? textCss.code : undefined}>{words}</b>
          </div>
        ))}
        <div className={pageCss.grow}>
          <small>
            {count(left, noun)} of {all} to {p.act[0]}
          </small>
          <LinearProgress
            variant="determinate"
            color="success"
            value={(100 * (all - left)) / Math.max(1, all)}
            aria-label={`${all - left} of ${count(all, noun)} ${p.act[1]}`}
          />
        </div>
        <Unsent />
        <Who />
      </header>
      <main className={handCss.board}>{p.children(scan)}</main>
      <div>
        {session.offline && (
          <OfflineNote words={`No network. ${count(session.waiting, 'scan')} kept, to be sent.`} />
        )}
        <AnswerBar where="foot" typed={typed} answer={answer ?? { ...p.says, tone: 'info' }} />
      </div>
    </div>
  );
}

interface WaitingProps {
  title: string;
  problem: NotOpened | null;
  open: (code: string) => void;
  /** What to scan: large, and more precisely. */
  wants: [large: string, next: string];
  /** Where else to go from here. */
  end: ReactNode;
  /** What waits, and what is said where nothing does. */
  children: ReactNode;
}

/** Nothing is open: what waits, and what was refused. */
export function HandWaiting({ title, problem, open, wants, end, children }: WaitingProps) {
  const [typed, setTyped] = useState('');
  useQuiet();
  useScanner(open, { typed: true, onTyping: setTyped });
  return (
    <div className={`${benchCss.edge} ${problem ? benchCss.wrong : ''}`}>
      <header className={benchCss.bhead}>
        <h1>{title}</h1>
        <Unsent />
        {end}
        <Who />
      </header>
      <main className={benchCss.wait}>
        <b>{wants[0]}</b>
        {typed && <OfflineNote words={typed} />}
        {children}
      </main>
      <AnswerBar
        where="foot"
        answer={
          problem
            ? { says: problem.says, next: problem.cure, tone: 'wrong', times: problem.times }
            : { says: 'Ready.', next: wants[1], tone: 'info' }
        }
      />
    </div>
  );
}
