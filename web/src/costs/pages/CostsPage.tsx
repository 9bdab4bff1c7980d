import { COST_GROUPS, CostsView } from '@auk/contract';
import { formatMoney } from '@auk/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { ParcelsNav } from '../../parcels/parts/ParcelsNav.js';
import { Choice } from '../../parts/Choice.js';
import { CodeLink } from '../../parts/Code.js';
import { Chart, type Series } from '../../parts/chart/Chart.js';
import { DayField } from '../../parts/DayField.js';
import { day } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useQuestion } from '../../parts/useQuestion.js';
import { costsQuery } from '../api.js';
import css from '../costs.module.css';

type Group = CostsView['groups'][number];
type Lost = CostsView['lost'][number];
type By = (typeof COST_GROUPS)[number];

const HEADS: Record<By, string> = {
  week: 'Week from',
  carrier: 'Carrier',
  service: 'Service',
  zone: 'Zone',
  channel: 'Channel',
};

/** Shipping money: what labels cost against what buyers paid for shipping, and which orders lost and why. */
export default function CostsPage() {
  const { part, set } = useQuestion();
  const by = (COST_GROUPS as readonly string[]).includes(part('by')) ? (part('by') as By) : 'week';
  const costs = useQuery(costsQuery(by, part('from'), part('until')));
  const view = costs.data;
  const sum = useMemo(() => total(view?.groups ?? []), [view]);
  const money = (minor: number) => formatMoney(minor, view?.currency ?? '');
  return (
    <>
      <ParcelsNav />
      <Head
        title="Shipping money"
        about="What labels cost against what buyers paid for shipping, in the house’s currency."
      />
      <div className={pageCss.fields}>
        <Choice
          label="By"
          value={by}
          options={COST_GROUPS.map(g => [g, g] as const)}
          onChoose={next => set('by', next)}
        />
        <div style={{ width: '13rem' }}>
          <DayField label="From" value={view?.from ?? null} onChange={d => set('from', d ?? '')} />
        </div>
        <div style={{ width: '13rem' }}>
          <DayField label="Until" value={view?.until ?? null} onChange={d => set('until', d ?? '')} />
        </div>
      </div>
      <ProblemNote error={costs.error} />
      {view && view.groups.length > 0 && (
        <p data-part="sum">
          <b>
            {sum.margin < 0
              ? `${money(-sum.margin)} more was spent than buyers paid`
              : `${money(sum.margin)} more was paid than spent`}
          </b>{' '}
          for {sum.parcels} parcels: {money(sum.cost)} spent, {money(sum.paid)} paid.
          {view.uncounted > 0 && (
            <span className={textCss.risk}>
              {' '}
              ! {view.uncounted} parcels are not counted: their currency has no rate under Setup &gt;
              Carriers.
            </span>
          )}
        </p>
      )}
      {view && <Groups view={view} by={by} />}
      {view && (
        <section className={css.lost}>
          <h2>Orders that lost money on their way</h2>
          <DataTable
            name="lost"
            label="Orders that lost money on their way"
            rows={view.lost}
            idOf={o => o.orderId}
            columns={lostColumns(view.currency)}
            arrangeable={false}
            empty="None in this span."
          />
        </section>
      )}
    </>
  );
}

function total(groups: readonly Group[]) {
  const sum = (of: 'parcels' | 'costMinor' | 'paidMinor') => groups.reduce((n, g) => n + g[of], 0);
  const [cost, paid] = [sum('costMinor'), sum('paidMinor')];
  return { parcels: sum('parcels'), cost, paid, margin: paid - cost };
}

function Groups({ view, by }: { view: CostsView; by: By }) {
  const along = useMemo(() => view.groups.map(g => g.name), [view]);
  const series = useMemo((): Series[] => {
    const units = (minor: number) => minor / 100;
    return [
      { name: 'Spent on labels', tone: 'ink', bars: true, values: view.groups.map(g => units(g.costMinor)) },
      { name: 'Paid by buyers', tone: 'done', bars: true, values: view.groups.map(g => units(g.paidMinor)) },
    ];
  }, [view]);
  if (view.groups.length === 0) return <p className={textCss.quiet}>No label was bought in this span.</p>;
  return (
    <>
      <Chart
        label={`Shipping money by ${by}`}
        along={along}
        alongName={HEADS[by]}
        series={series}
        height={11}
      />
      <DataTable
        name="costs"
        label={`Shipping money by ${by}`}
        rows={view.groups}
        idOf={g => g.name}
        columns={groupColumns(view.currency, by)}
        arrangeable={false}
      />
    </>
  );
}

const groupColumns = (currency: string, by: By): Column<Group>[] => [
  { id: 'name', head: HEADS[by], width: 30, cell: g => (by === 'week' ? day(g.name) : g.name) },
  { id: 'parcels', head: 'Parcels', right: true, width: 8, cell: g => g.parcels },
  { id: 'cost', head: 'Spent', right: true, width: 12, cell: g => formatMoney(g.costMinor, currency) },
  { id: 'paid', head: 'Paid', right: true, width: 12, cell: g => formatMoney(g.paidMinor, currency) },
  {
    id: 'each',
    head: 'A parcel',
    right: true,
    width: 12,
    cell: g => formatMoney(Math.round(g.costMinor / g.parcels), currency),
  },
  {
    id: 'margin',
    head: 'Left',
    right: true,
    width: 14,
    cell: g => <Left minor={g.paidMinor - g.costMinor} currency={currency} />,
  },
];

const lostColumns = (currency: string): Column<Lost>[] => [
  {
    id: 'order',
    head: 'Order',
    width: 12,
    cell: o => <CodeLink to={`/orders/${o.orderId}`}>{o.order}</CodeLink>,
  },
  { id: 'service', head: 'Service', width: 22, cell: o => `${o.carrierName}, ${o.service}` },
  { id: 'cost', head: 'Spent', right: true, width: 9, cell: o => formatMoney(o.costMinor, currency) },
  { id: 'paid', head: 'Paid', right: true, width: 9, cell: o => formatMoney(o.paidMinor, currency) },
  {
    id: 'left',
    head: 'Left',
    right: true,
    width: 11,
    cell: o => <Left minor={o.paidMinor - o.costMinor} currency={currency} />,
  },
  { id: 'why', head: 'Why', width: 34, cell: o => o.why },
];

/** What is left of what was paid; a loss has its sign and its mark. */
function Left({ minor, currency }: { minor: number; currency: string }) {
  return minor < 0 ? (
    <span className={textCss.stop}>▼ {formatMoney(minor, currency)}</span>
  ) : (
    <span>{formatMoney(minor, currency)}</span>
  );
}
