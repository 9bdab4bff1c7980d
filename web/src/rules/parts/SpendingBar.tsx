import { can, type SpendCapsIn, type SpendingView } from '@auk/contract';
import { count, formatMoney, minorDigits, type NumberedRule, parseAmount } from '@auk/core';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { changed } from '../../asked.js';
import { spendingQuery } from '../../parts/api.js';
import { Ask } from '../../parts/ask.js';
import { clock } from '../../parts/format.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { setCaps } from '../api.js';
import css from '../rules.module.css';

type Row = SpendingView['rows'][number];

/** What was bought without a person today, of how much; what was refused, and why. */
export function SpendingBar({ rules }: { rules: readonly NumberedRule[] }) {
  const spending = useQuery(spendingQuery);
  const may = can(useMe(), 'rules.spend');
  const [asking, setAsking] = useState(false);
  const [listed, setListed] = useState(false);
  const buying = rules.filter(r => r.runs && r.do.some(a => a.do === 'buy'));
  if (!spending.data || (buying.length === 0 && spending.data.rows.length === 0)) return null;
  const s = spending.data;
  const money = (minor: number) => formatMoney(minor, s.currency);
  const cap = s.caps.dayMinor;
  return (
    <section className={css.spending} aria-label="Bought unattended">
      <div className={css.spent}>
        <b>Unattended today</b>
        <span>
          {count(s.labels, 'label')}, {money(s.minor)}
          {cap === null ? '; no cap for a day is set, so nothing is bought' : ` of ${money(cap)}`}
        </span>
        {cap !== null && cap > 0 && (
          <LinearProgress
            variant="determinate"
            aria-label="How much of the day’s cap is spent or held"
            value={Math.min(100, (100 * s.minor) / cap)}
            sx={{ flex: '0 1 14rem' }}
          />
        )}
        {s.refused > 0 && <span className={textCss.risk}>▲ {s.refused} not bought</span>}
        {s.rows.length > 0 && (
          <Button size="small" aria-expanded={listed} onClick={() => setListed(!listed)}>
            {listed ? 'Close the list' : 'List them'}
          </Button>
        )}
        {may && (
          <Button size="small" variant="outlined" color="secondary" onClick={() => setAsking(true)}>
            Caps
          </Button>
        )}
      </div>
      {listed && (
        <DataTable
          name="unattended"
          label="Bought unattended today"
          rows={s.rows}
          idOf={row => row.id}
          columns={columnsOf(money)}
          to={row => `/orders/${row.orderId}`}
          arrangeable={false}
        />
      )}
      {asking && <Caps spending={s} rules={buying} leave={() => setAsking(false)} />}
    </section>
  );
}

const STATES: Record<Row['state'], string> = {
  bought: '● bought',
  'under way': '◌ under way',
  refused: '▲ not bought',
  voided: '○ voided',
};

const columnsOf = (money: (n: number) => string): Column<Row>[] => [
  { id: 'at', head: 'At', width: 5, cell: r => clock(r.at) },
  {
    id: 'order',
    head: 'Order',
    width: 10,
    cell: r => (
      <Link className={`${textCss.code} ${textCss.name}`} to={`/orders/${r.orderId}`}>
        {r.order}
      </Link>
    ),
  },
  { id: 'parcel', head: 'Parcel', width: 7, cell: r => <span className={textCss.code}>{r.parcel}</span> },
  { id: 'service', head: 'Service', width: 12, cell: r => r.service },
  { id: 'price', head: 'Price', right: true, width: 7, cell: r => (r.minor === null ? '' : money(r.minor)) },
  {
    id: 'state',
    head: 'What became of it',
    width: 26,
    cell: r => [STATES[r.state], r.why].filter(Boolean).join(': '),
  },
  { id: 'rule', head: 'Rule', width: 16, cell: r => r.rule },
];

interface CapsProps {
  spending: SpendingView;
  rules: readonly NumberedRule[];
  leave: () => void;
}

/** The caps: for one label, for a day, and for each rule that buys in a day. Empty is no cap, and without one nothing is bought. */
function Caps({ spending, rules, leave }: CapsProps) {
  const client = useQueryClient();
  const { caps, currency } = spending;
  const shown = (minor: number | null | undefined) =>
    minor == null ? '' : (minor / 10 ** minorDigits(currency)).toFixed(minorDigits(currency));
  const [texts, setTexts] = useState<Record<string, string>>({
    label: shown(caps.labelMinor),
    day: shown(caps.dayMinor),
    ...Object.fromEntries(rules.map(r => [`rule ${r.id}`, shown(caps.rules[r.id])])),
  });
  const set = useMutation({
    mutationFn: (to: SpendCapsIn) => setCaps(to),
    onSuccess: async () => {
      await changed(client, 'rules');
      leave();
    },
  });
  const read = (key: string): number | null | undefined => {
    const text = texts[key]?.trim() ?? '';
    if (text === '') return null;
    const amount = parseAmount(text, currency);
    return amount.ok && amount.value >= 0 ? amount.value : undefined;
  };
  const fields: [key: string, label: string][] = [
    ['label', 'Most for one label'],
    ['day', 'Most in a day, of all rules'],
    ...rules.map(r => [`rule ${r.id}`, `Most in a day, rule ${r.no} ${r.name}`] as [string, string]),
  ];
  const wrong = fields.some(([key]) => read(key) === undefined);
  const wanted = (): SpendCapsIn => ({
    labelMinor: read('label') ?? null,
    dayMinor: read('day') ?? null,
    rules: { ...caps.rules, ...Object.fromEntries(rules.map(r => [r.id, read(`rule ${r.id}`) ?? null])) },
  });
  return (
    <Ask
      title="What may be bought unattended"
      act="Set the caps"
      onAct={() => set.mutate(wanted())}
      onLeave={leave}
      busy={set.isPending}
      error={set.error}
      ready={!wrong}
    >
      <p className={textCss.quiet}>
        In {currency}. All of them must be set: without a cap nothing is bought. A label that is voided does
        not give its money back to the day.
      </p>
      {fields.map(([key, label]) => (
        <TextField
          key={key}
          label={label}
          value={texts[key] ?? ''}
          error={read(key) === undefined}
          helperText={read(key) === undefined ? `is no amount in ${currency}` : null}
          onChange={e => setTexts({ ...texts, [key]: e.target.value })}
        />
      ))}
    </Ask>
  );
}
