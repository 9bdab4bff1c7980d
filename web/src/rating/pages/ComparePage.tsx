import {
  type ChosenService,
  type CompareAsk,
  type ComparedService,
  type CompareView,
  can,
} from '@auk/contract';
import { billedAs, formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { v7 } from 'uuid';
import { changed } from '../../asked.js';
import { buyLabel } from '../../packing/api.js';
import { day } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { useCurrency } from '../../setup/useCurrency.js';
import { chooseService, compareQuery } from '../api.js';
import { Asked } from '../parts/Asked.js';
import { QuoteForm } from '../parts/QuoteForm.js';
import { Services } from '../parts/Services.js';
import { Templates } from '../parts/Templates.js';
import { WhatFor } from '../parts/WhatFor.js';
import { optionsOf, quoteOf } from '../question.js';

/** What is compared, by the address of the page: a parcel, an order, or what is typed. */
function aboutOf(asked: URLSearchParams): CompareAsk['about'] | null {
  const [parcel, order] = [asked.get('parcel'), asked.get('order')];
  if (parcel) return { kind: 'parcel', no: parcel };
  if (order) return { kind: 'order', id: order };
  const quote = quoteOf(asked);
  return quote.ok ? quote.about : null;
}

/** Services side by side, each with its boxes: what they cost, when they arrive, and what they leave of what the buyer paid. */
export default function ComparePage() {
  const me = useMe();
  const [asked, setAsked] = useSearchParams();
  const [picked, setPicked] = useState<string | null>(null);
  const currency = useCurrency();
  const about = aboutOf(asked);
  const options = optionsOf(asked, currency);
  const compared = useQuery({
    ...compareQuery({ about: about!, options }),
    enabled: about !== null && currency !== '',
    placeholderData: before => (about ? before : undefined),
  });
  const set = (changes: Record<string, string>) => {
    const next = new URLSearchParams(asked);
    for (const [key, value] of Object.entries(changes))
      value === '' ? next.delete(key) : next.set(key, value);
    setAsked(next, { replace: true });
  };
  const view = compared.data;
  const quick = !asked.get('parcel') && !asked.get('order');
  const row = view?.rows.find(r => keyOf(r) === picked) ?? view?.rows[0];
  return (
    <>
      <Head
        title={quick ? 'Quick quote' : view ? `Services for ${view.title}` : 'Services'}
        about={
          view && !quick
            ? promiseOf(view)
            : 'What a parcel would cost and when it would be there, without an order.'
        }
      >
        {!quick && (
          <Button component={Link} to="/parcels/compare" variant="outlined" color="secondary">
            Quick quote
          </Button>
        )}
        {view && row && <Take view={view} row={row} options={options} />}
      </Head>
      {quick && <QuoteForm asked={asked} set={set} />}
      {about && <Asked asked={asked} set={set} currency={currency} known={!quick} />}
      {view && <OwnAsks asks={view.asks} currency={view.currency} />}
      {view?.order && row && can(me, 'labels.choose') && (
        <Templates orderId={view.order.id} chosen={chosenOf(view, row, options)} />
      )}
      <ProblemNote error={compared.error} />
      {about && compared.isPending && <p className={textCss.quiet}>Asking the carriers …</p>}
      {view && about && (
        <div className={pageCss.withside} aria-busy={compared.isFetching}>
          <Services view={view} keyOf={keyOf} pick={r => setPicked(keyOf(r))} />
          {row && <WhatFor view={view} row={row} />}
        </div>
      )}
    </>
  );
}

/** A row as it is chosen for an order, with the boxes that it was compared with. */
const chosenOf = (
  view: CompareView,
  { carrier, account, service, name, parcels }: ComparedService,
  options: CompareAsk['options'],
): ChosenService => ({
  carrier,
  account: account.number,
  service,
  name,
  boxes: parcels.flatMap(p => view.parcels[p.parcel]!.boxCode ?? []),
  options,
});

const keyOf = (r: ComparedService): string =>
  `${r.carrier} ${r.account.number} ${r.service} ${r.parcels.map(p => p.parcel).join('+')}`;

function promiseOf(view: CompareView): string {
  const paid =
    view.paidMinor === null
      ? null
      : `the buyer paid ${formatMoney(view.paidMinor, view.currency)} for shipping`;
  const promised = view.promised ? `promised for ${day(view.promised)}` : 'no day is promised';
  return [`to ${view.to}`, promised, paid].filter(Boolean).join(' · ');
}

/** What the order itself asks of any service, whatever is asked above. */
function OwnAsks({ asks, currency }: { asks: CompareView['asks']; currency: string }) {
  const words = [
    asks.toPoint && 'that it is brought to its pick-up point',
    asks.signature && 'for a signature',
    asks.saturday && 'for Saturdays too',
    asks.dropOff && 'that it is brought to a counter',
    asks.insured && 'that it is insured for what is in it',
    asks.valueMinor && `that ${formatMoney(asks.valueMinor, currency)} are declared`,
    asks.cashMinor && `that ${formatMoney(asks.cashMinor, currency)} are paid at the door`,
  ].filter(Boolean);
  return words.length > 0 ? <p>The order itself asks {words.join(' and ')}.</p> : null;
}

/** The act that comes next: the service is chosen for the order, or its label is bought for the parcel. */
function Take({
  view,
  row,
  options,
}: {
  view: CompareView;
  row: ComparedService;
  options: CompareAsk['options'];
}) {
  const me = useMe();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [key, setKey] = useState(() => v7());
  const after = async () => {
    setKey(v7());
    await changed(client, 'orders', 'parcels');
  };
  const choose = useMutation({
    mutationFn: (free: boolean) => {
      return chooseService(view.order!.id, free ? null : chosenOf(view, row, options));
    },
    onSuccess: (_, free) => {
      say(free ? 'The bench chooses again.' : `${row.name} is chosen for ${view.title}.`);
      return after();
    },
  });
  const buy = useMutation({
    mutationFn: () => {
      const { quote } = row.parcels[0]!;
      const { carrier, account, service, name, arrives } = row;
      const { quoteId, minor, currency, zone, charges, billable } = quote;
      const what = {
        carrier,
        account: account.number,
        service,
        quoteId,
        minor,
        currency,
        name,
        arrives,
        zone,
      };
      return buyLabel(view.parcel!, { ...what, charges, billable: billedAs(billable), options, key });
    },
    // What became of it stands with the parcel.
    onSuccess: async () => {
      await after();
      await navigate(`/parcels?look=${view.parcel}`);
    },
  });
  if (view.order && can(me, 'labels.choose')) {
    const chosen = view.order.chosen === `${row.carrier} ${row.account.number} ${row.service}`;
    return (
      <>
        {view.order.chosen && (
          <Button
            variant="outlined"
            color="secondary"
            disabled={choose.isPending}
            onClick={() => choose.mutate(true)}
          >
            Let the bench choose
          </Button>
        )}
        <Button
          variant="contained"
          disabled={chosen || choose.isPending}
          onClick={() => choose.mutate(false)}
        >
          {chosen ? `${row.name} is chosen` : `Take ${row.name}`}
        </Button>
        <ProblemNote error={choose.error} />
      </>
    );
  }
  if (view.parcel && can(me, 'pack'))
    return (
      <>
        <Button variant="contained" disabled={buy.isPending} onClick={() => buy.mutate()}>
          Buy for {formatMoney(row.labelMinor, row.currency)}
        </Button>
        <ProblemNote error={buy.error} />
      </>
    );
  return null;
}
