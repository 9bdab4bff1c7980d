import type { BuyerPage as Page } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { v7 } from 'uuid';
import { Form } from '../../parts/Form.js';
import { day, moment } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { Waiting } from '../../parts/Waiting.js';
import { Looks } from '../../theme/Looks.js';
import { buyerPageQuery, logoPath, returnPath, writeToHouse } from '../api.js';
import css from '../buyers.module.css';

/** What a buyer sees of an order: where it is, what is in it, and a way to write to the shop. Nobody signs in here. */
export default function BuyerPage() {
  const { token } = useParams();
  const page = useQuery(buyerPageQuery(token!));
  useTitle(page.data ? `${page.data.brand}, ${page.data.number}` : 'Your order');
  return (
    <Looks posture="desk">
      {page.data ? (
        <Order page={page.data} token={token!} />
      ) : (
        <main className={css.page}>
          <div className={css.brand}>Your order</div>
          <Waiting error={page.error} />
        </main>
      )}
    </Looks>
  );
}

function Order({ page: p, token }: { page: Page; token: string }) {
  return (
    <>
      <div className={css.band} style={{ background: p.colour }} />
      <main className={css.page}>
        <div className={css.brand}>
          {p.hasLogo && <img src={logoPath(token)} alt="" />}
          {p.brand}
        </div>
        <h1>
          Your order <span className={textCss.code}>{p.number}</span>
        </h1>
        <Road stage={p.stage} />
        {p.promised && p.stage !== 'arrived' && p.stage !== 'cancelled' && (
          <p className={css.promised}>Promised for {day(p.promised)}.</p>
        )}
        {p.parcels.some(x => x.tracking) && (
          <section>
            <h2>{p.parcels.length === 1 ? 'The parcel' : `${p.parcels.length} parcels`}</h2>
            {p.parcels.map((parcel, i) => (
              <Parcel key={parcel.tracking ?? i} parcel={parcel} seq={i + 1} token={token} zone={p.zone} />
            ))}
          </section>
        )}
        <section>
          <h2>What you ordered</h2>
          {p.lines.map((l, i) => (
            <div key={`${l.title}${i}`}>
              {l.quantity} × {l.title}
            </div>
          ))}
        </section>
        <Write page={p} token={token} />
        {p.until && <p className={textCss.quiet}>This page is open until {day(p.until)}.</p>}
      </main>
    </>
  );
}

const ROAD: [stage: Page['stage'], words: string][] = [
  ['taken', 'We have it'],
  ['prepared', 'Being prepared'],
  ['packed', 'Packed'],
  ['left', 'On its way'],
  ['arrived', 'Arrived'],
];
const OFF_ROAD: Partial<Record<Page['stage'], string>> = {
  cancelled: '○ This order was cancelled.',
  'coming back': '▲ It could not be delivered and comes back to us. Write to us below.',
};

/** How far the order has come, as a road with what is done, where it is, and what is to come. */
function Road({ stage }: { stage: Page['stage'] }) {
  const off = OFF_ROAD[stage];
  if (off)
    return (
      <p>
        <b>{off}</b>
      </p>
    );
  const at = ROAD.findIndex(([s]) => s === stage);
  return (
    <ol className={css.road} aria-label="How far it has come">
      {ROAD.map(([s, words], i) => (
        <li
          key={s}
          className={i === at ? css.now : i < at ? css.done : ''}
          {...(i === at && { 'aria-current': 'step' as const })}
        >
          <span aria-hidden="true">
            {i < at || (s === 'arrived' && i === at) ? '✓' : i === at ? '●' : '○'}
          </span>{' '}
          {words}
        </li>
      ))}
    </ol>
  );
}

function Parcel({
  parcel: p,
  seq,
  token,
  zone,
}: {
  parcel: Page['parcels'][number];
  seq: number;
  token: string;
  zone: string;
}) {
  return (
    <div className={css.parcel}>
      <b>{p.carrier ?? 'Not labelled yet'}</b> <span className={textCss.code}>{p.tracking}</span>
      {p.arrives && p.state !== 'delivered' && <div>Expected {day(p.arrives)}</div>}
      {p.contents.length > 0 && (
        <div className={textCss.quiet}>
          In it: {p.contents.map(c => `${c.quantity} × ${c.title}`).join(', ')}
        </div>
      )}
      {p.returns && (
        <div>
          <a href={returnPath(token, seq)} target="_blank" rel="noreferrer">
            Print the return label
          </a>
        </div>
      )}
      <ul className={pageCss.history}>
        {p.events.map(e => (
          <li key={e.at + e.kind + e.says}>
            <span className={textCss.quiet}>{moment(e.at, zone)}</span>
            <div>
              {e.kind === 'exception' || e.kind === 'coming back' ? '▲ ' : ''}
              {e.says} <span className={textCss.quiet}>{e.place}</span>
            </div>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Write({ page: p, token }: { page: Page; token: string }) {
  const client = useQueryClient();
  const [draft, setDraft] = useState({ key: v7(), text: '' });
  const write = useMutation({
    mutationFn: () => writeToHouse(token, draft.key, draft.text),
    onSuccess: got => {
      client.setQueryData(buyerPageQuery(token).queryKey, got);
      setDraft({ key: v7(), text: '' });
    },
  });
  return (
    <section>
      <h2>Write to us</h2>
      <ul className={css.thread}>
        {p.messages.map(m => (
          <li key={m.id} className={css[m.sender]}>
            <div className={textCss.quiet}>
              {m.sender === 'buyer' ? 'You' : p.brand} · {moment(m.at, p.zone)}
            </div>
            {m.text}
          </li>
        ))}
      </ul>
      <Form
        label="Write to us"
        ready={draft.text.trim() !== '' && !write.isPending}
        onSend={() => write.mutate()}
      >
        <Line
          label="Your message"
          rows={3}
          most={2000}
          value={draft.text}
          onType={text => setDraft({ ...draft, text })}
        />
        <div className={pageCss.inline}>
          <Button type="submit" variant="contained" disabled={draft.text.trim() === '' || write.isPending}>
            Send
          </Button>
          {write.isSuccess && draft.text === '' && <span>✓ We have it, and will answer by mail.</span>}
        </div>
      </Form>
      <ProblemNote error={write.error} />
    </section>
  );
}
