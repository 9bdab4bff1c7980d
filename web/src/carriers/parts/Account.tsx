import type { CarrierView, SheetTaken } from '@auk/contract';
import { count } from '@auk/core';
import MuiLink from '@mui/material/Link';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Choice, type Options } from '../../parts/Choice.js';
import { FilePick } from '../../parts/FilePick.js';
import { day } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { addAccount, sheetPath, takeSheet } from '../api.js';
import css from '../carriers.module.css';

type AccountView = CarrierView['accounts'][number];

const RATES: Options<AccountView['rates']> = [
  ['asked', 'the carrier is asked'],
  ['sheet', 'by my own rate sheet'],
];

/** An account, where its prices come from, and its rate sheets; a new one is dropped in as a file. */
export function Account({ account: a, may }: { account: AccountView; may: boolean }) {
  const client = useQueryClient();
  const [bad, setBad] = useState<SheetTaken['bad']>([]);
  const take = useMutation({
    mutationFn: (file: File) => takeSheet(a.id, file),
    onSuccess: async got => {
      setBad(got.bad);
      if (got.taken) say(`${got.name} is taken in, with ${count(got.services, 'service')}.`);
      await changed(client, 'carriers');
    },
  });
  return (
    <div className={css.account}>
      <b>{a.name}</b> {a.number && <span className={textCss.code}>{a.number}</span>}
      <div className={textCss.quiet}>
        {a.rates === 'asked' ? 'prices are asked of the carrier' : 'prices by your own rate sheet'}
        {!a.inUse && ', not in use'}
      </div>
      <ul className={css.sheets}>
        {a.sheets.map(s => (
          <li key={s.id}>
            {s.counts ? '✓ ' : ''}
            <MuiLink href={sheetPath(s.id)} download>
              {s.name}
            </MuiLink>{' '}
            <span className={textCss.quiet}>
              {s.currency}, from {day(s.from)}
              {s.counts && a.rates === 'asked' && ', to choose boxes by'}
            </span>
          </li>
        ))}
      </ul>
      {may && (
        <FilePick label={`Rate sheet of ${a.name}`} accept=".csv,text/csv" onFile={f => take.mutate(f)}>
          <span className={css.drop}>Take in a rate sheet (CSV)</span>
        </FilePick>
      )}
      <ProblemNote error={take.error} />
      {bad.length > 0 && (
        <div role="alert" className={textCss.stop}>
          The sheet is not taken in. {count(bad.length, 'row')} cannot be read:
          <ul className={css.sheets}>
            {bad.slice(0, 12).map(b => (
              <li key={`${b.row} ${b.why}`}>
                row {b.row}: {b.why}
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}

export function NewAccount({ carrier: c, leave }: { carrier: CarrierView; leave: () => void }) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [number, setNumber] = useState('');
  const [rates, setRates] = useState<AccountView['rates']>('sheet');
  const save = useMutation({
    mutationFn: () => addAccount(c.code, { name, number, rates }),
    onSuccess: async () => {
      await changed(client, 'carriers');
      leave();
    },
  });
  return (
    <Ask
      title={`An account with ${c.name}`}
      act="Add it"
      ready={name.trim() !== '' && number.trim() !== ''}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => save.mutate()}
    >
      <Line label="Name" autoFocus value={name} onType={setName} />
      <Line label="Number with the carrier" value={number} onType={setNumber} />
      <Choice label="Prices" value={rates} options={RATES} onChoose={setRates} fullWidth />
    </Ask>
  );
}
