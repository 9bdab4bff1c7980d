import { ExchangeRateView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Form } from '../../parts/Form.js';
import { day, today } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { useCurrency } from '../../setup/useCurrency.js';
import { enterRate, exchangeQuery } from '../api.js';
import css from '../carriers.module.css';

/** What other currencies are worth, as they are entered; prices of carriers and limits of customs are put into house money by them. */
export function Rates({ may }: { may: boolean }) {
  const client = useQueryClient();
  const rates = useQuery(exchangeQuery);
  const own = useCurrency();
  const [currency, setCurrency] = useState('');
  const [worth, setWorth] = useState('');
  const read = ExchangeRateView.safeParse({
    currency,
    day: today(),
    perHouse: Number(worth.replace(',', '.')),
  });
  const save = useMutation({
    mutationFn: () => enterRate(read.data!),
    onSuccess: async () => {
      setCurrency('');
      setWorth('');
      await changed(client, 'carriers');
    },
  });
  const latest = (rates.data ?? []).filter(
    (r, i, all) => all.findIndex(q => q.currency === r.currency) === i,
  );
  return (
    <section>
      <h2>What currencies are worth</h2>
      <ul className={css.sheets}>
        {latest.map(r => (
          <li key={r.currency}>
            <span className={textCss.code}>1 {r.currency}</span> = {r.perHouse} {own}{' '}
            <span className={textCss.quiet}>since {day(r.day)}</span>
          </li>
        ))}
      </ul>
      {may && (
        <Form
          className={pageCss.fields}
          label="A rate"
          ready={read.success && !save.isPending}
          onSend={() => save.mutate()}
        >
          <Line label="Currency" capitals most={3} width={6} value={currency} onType={setCurrency} />
          <Line label={`Worth in ${own}`} width={8} value={worth} onType={setWorth} />
          <Button type="submit" variant="outlined" color="secondary" disabled={!read.success}>
            From today
          </Button>
        </Form>
      )}
      <ProblemNote error={save.error ?? rates.error} />
    </section>
  );
}
