import { count, type RuleBook } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { FilePick } from '../../parts/FilePick.js';
import { day } from '../../parts/format.js';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { differencesQuery, goBackTo, versionsQuery } from '../api.js';
import { readBookFile } from '../bookFile.js';
import css from '../rules.module.css';

interface Props {
  no: number;
  may: boolean;
  /** A book from a file; it stands beside what is saved until somebody saves it. */
  onBook: (book: RuleBook) => void;
  leave: () => void;
}

/** The versions of the book: who saved each, what differs from the one that runs, and the way back. */
export function OlderBooks({ no, may, onBook, leave }: Props) {
  const client = useQueryClient();
  const versions = useQuery(versionsQuery);
  const [against, setAgainst] = useState<number | null>(null);
  const back = useMutation({
    mutationFn: (old: number) => goBackTo(old, no),
    onSuccess: async (saved, old) => {
      await changed(client, 'rules');
      say(`Book ${old} runs again, as book ${saved.no}.`);
    },
  });
  if (!versions.data) return <Waiting error={versions.error} />;
  return (
    <section aria-label="Older books">
      <h2>Books so far</h2>
      <ProblemNote error={back.error} />
      <ol className={css.versions}>
        {versions.data.map(v => (
          <li key={v.no}>
            <b>{v.no}</b>
            <span>
              {v.by ?? 'Auk'}, {day(v.at)} <span className={textCss.quiet}>{count(v.rules, 'rule')}</span>
              {v.note !== '' && <div>{v.note}</div>}
              {against === v.no && <Differences from={v.no} to={no} />}
            </span>
            <span>
              {v.no === no ? (
                <>
                  <span className={textCss.good}>● runs</span>
                  <Button size="small" href={`/api/v1/rules/versions/${v.no}/file`}>
                    File
                  </Button>
                </>
              ) : (
                <>
                  <Button size="small" href={`/api/v1/rules/versions/${v.no}/file`}>
                    File
                  </Button>
                  <Button size="small" onClick={() => setAgainst(against === v.no ? null : v.no)}>
                    Compare
                  </Button>
                  {may && (
                    <Button size="small" disabled={back.isPending} onClick={() => back.mutate(v.no)}>
                      Go back to {v.no}
                    </Button>
                  )}
                </>
              )}
            </span>
          </li>
        ))}
      </ol>
      {may && <TakeIn onBook={onBook} />}
      <Button size="small" variant="outlined" color="secondary" onClick={leave}>
        Back to the dry run
      </Button>
    </section>
  );
}

/** A book from a file; a wrong one says where it is wrong. */
function TakeIn({ onBook }: { onBook: (book: RuleBook) => void }) {
  const [wrong, setWrong] = useState<string[]>([]);
  const take = async (file: File) => {
    const read = readBookFile(await file.text());
    setWrong(read.ok ? [] : read.problem);
    if (read.ok) onBook(read.value);
  };
  return (
    <>
      <FilePick label="A book from a file" accept="application/json,.json" onFile={file => void take(file)}>
        <span className={textCss.tide}>Take a book in from a file</span>
      </FilePick>
      {wrong.map(w => (
        <p key={w} role="alert" className={textCss.stop}>
          ▲ {w}
        </p>
      ))}
    </>
  );
}

const HOW = {
  new: '+ new',
  gone: '− gone',
  changed: '≠ changed',
  moved: '↕ moved',
  on: '● put on',
  off: '○ put off',
} as const;

/** What changed from an older book to the one that runs. */
function Differences({ from, to }: { from: number; to: number }) {
  const found = useQuery(differencesQuery(from, to));
  if (!found.data) return <Waiting error={found.error} />;
  if (found.data.differences.length === 0) return <p className={textCss.quiet}>Nothing differs.</p>;
  return (
    <ul className={textCss.plain} aria-label={`From book ${from} to book ${to}`}>
      {found.data.differences.map(d => (
        <li key={d.id} className={css.change}>
          <b>
            {HOW[d.how]} {d.name}
          </b>
          {d.how === 'changed' && <del>{d.before}</del>}
          {(d.how === 'changed' || d.how === 'new') && <ins>{d.after}</ins>}
        </li>
      ))}
    </ul>
  );
}
