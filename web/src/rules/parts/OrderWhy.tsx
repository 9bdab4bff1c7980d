import { can } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { changed } from '../../asked.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { orderWhyQuery, ruleWordsQuery, runAgain } from '../api.js';
import css from '../rules.module.css';
import { callsBy, MOMENT_WORDS } from '../words.js';

/** Why an order has its service, box and the rest, and what the book of now would do while it is open. */
export function OrderWhy({ orderId, open }: { orderId: string; open: boolean }) {
  const client = useQueryClient();
  const me = useMe();
  const why = useQuery(orderWhyQuery(orderId));
  const words = useQuery(ruleWordsQuery);
  const again = useMutation({
    mutationFn: () => runAgain([orderId]),
    onSuccess: async ([answer]) => {
      await changed(client, 'orders', 'rules');
      if (answer) say(answer.says);
    },
  });
  if (!why.data || (why.data.book === 0 && why.data.fields.length === 0)) return null;
  const { fields, runs, now, book } = why.data;
  const calls = callsBy(words.data);
  const called = (text: string) => text.replace(/"([^"]*)"/g, (_, code) => calls('service', code));
  const acted = runs.flatMap(r => r.acted.map(a => ({ ...a, moment: r.moment, book: r.book })));
  return (
    <section className={pageCss.panel} aria-label="What decided it">
      <h2>What decided it</h2>
      <dl className={`${pageCss.facts} ${css.why}`}>
        {fields.map(f => (
          <Said key={f.field} field={f} />
        ))}
        {USUAL.filter(u => !fields.some(f => f.field === u.field)).map(u => (
          <Said key={u.field} field={u} />
        ))}
      </dl>
      {acted.length > 0 && (
        <ul className={textCss.plain}>
          {acted.map(a => (
            <li key={`${a.moment} ${a.rule}`}>
              <b>
                Rule {a.no} {a.name}
              </b>{' '}
              <span className={textCss.quiet}>
                {MOMENT_WORDS[a.moment]}, book {a.book}
              </span>
              <div>{called(a.does.join(', '))}</div>
            </li>
          ))}
        </ul>
      )}
      {open && now.length > 0 && (
        <p>
          <span className={textCss.tide}>◆ Book {book} would now decide:</span> {now.map(called).join('; ')}.
        </p>
      )}
      <ProblemNote error={again.error} />
      <div className={pageCss.inline}>
        <Link to="/rules">The rule book</Link>
        {open && can(me, 'rules.run') && (
          <Button size="small" disabled={again.isPending} onClick={() => again.mutate()}>
            Run the rules again
          </Button>
        )}
      </div>
    </section>
  );
}

interface Field {
  field: string;
  words: string;
  value: string;
  by: string;
  over: { value: string; by: string }[];
}

/** What counts where nobody says anything. */
const USUAL: readonly Field[] = [
  { field: 'service', words: 'service', value: 'the cheapest in time', by: 'the house’s usual', over: [] },
  { field: 'box', words: 'box', value: 'the cheapest that holds it', by: 'the house’s usual', over: [] },
];

function Said({ field: f }: { field: Field }) {
  return (
    <>
      <dt>{f.words}</dt>
      <dd>
        {f.value}
        <small>{f.by}</small>
        {f.over.map(o => (
          <small key={o.by}>over {[o.value, o.by].filter(w => w !== '').join(', ')}</small>
        ))}
      </dd>
    </>
  );
}
