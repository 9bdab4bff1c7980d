import type { InboundView, InboundWays } from '@auk/contract';
import { type ComparedWay, count, formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { chooseWay } from '../api.js';
import css from '../inbound.module.css';
import { useAct } from '../useAct.js';

interface Props {
  view: InboundView;
  ways: InboundWays;
  may: boolean;
}

const keyOf = (
  w: Pick<ComparedWay, 'placement' | 'form' | 'carrier' | 'rates'> & { network?: string | undefined },
): string => [w.network, w.placement, w.form, w.carrier, w.rates].join(' ');

/** All ways beside each other, the best by its total first; chosen by a press. */
export function Ways({ view, ways, may }: Props) {
  const choose = useAct((w: ComparedWay) => chooseWay(view.no, w));
  const chosen = view.way && keyOf({ ...view.way, network: view.network });
  const { table } = ways;
  const dropped = ways.dropped.filter(d => d.network === view.network);
  return (
    <>
      <h2 className={css.ways}>Ways to send it</h2>
      <p className={textCss.quiet}>
        {table.unknown > 0
          ? `What being on sale sooner is worth is unknown for ${count(table.unknown, 'product')}: their sales or what they earn is not known.`
          : 'Sooner: what being on sale sooner is worth against the slowest way, for days on which the center would have nothing to sell.'}
      </p>
      <ProblemNote error={choose.error} />
      <DataTable
        name="inbound-ways"
        label="Ways to send it"
        arrangeable={false}
        rows={table.ways}
        idOf={keyOf}
        columns={columnsOf(view, chosen, may ? w => choose.mutate(w) : null, choose.isPending)}
        empty="No way takes it. What stands below says why."
      />
      {ways.left.length > 0 && (
        <p className={textCss.stop}>
          ✕ Goes into no box: {ways.left.map(l => `${l.sku}: ${l.why}`).join(' ')}
        </p>
      )}
      {dropped.length > 0 && (
        <p className={textCss.quiet}>
          Not offered: {dropped.map(d => `${d.carrier}, ${d.placement}, ${d.form}: ${d.why}`).join(' · ')}
        </p>
      )}
    </>
  );
}

function columnsOf(
  { currency, network }: InboundView,
  chosen: string | null,
  choose: ((w: ComparedWay) => void) | null,
  busy: boolean,
): Column<ComparedWay>[] {
  const money = (id: keyof ComparedWay, head: string, width = 9): Column<ComparedWay> => ({
    id,
    head,
    right: true,
    width,
    cell: w => ((w[id] as number) === 0 ? '—' : formatMoney(w[id] as number, currency)),
  });
  return [
    {
      id: 'way',
      head: 'Way',
      width: 20,
      cell: w => (
        <>
          <b>{w.placement === 'spread' ? 'Spread over centers' : 'One dock'}</b>
          <div className={textCss.quiet}>
            {w.network !== network && <b>{w.network}: </b>}
            {w.form}, {w.carrier} {w.rates === 'theirs' ? 'by the network' : 'by us'}
          </div>
        </>
      ),
    },
    money('feeMinor', 'Fee'),
    money('freightMinor', 'Freight'),
    money('preparationMinor', 'Preparing'),
    money('materialMinor', 'Material'),
    money('storageMinor', 'Storage'),
    {
      id: 'sum',
      head: 'Together',
      right: true,
      width: 11,
      cell: w => (
        <>
          <b>{formatMoney(w.sumMinor, currency)}</b>
          <div className={textCss.quiet}>{formatMoney(Math.round(w.perUnit), currency)} each</div>
        </>
      ),
    },
    {
      id: 'days',
      head: 'On sale in',
      width: 13,
      cell: w => (
        <>
          {count(w.days, 'day')}
          <div className={textCss.quiet}>{w.minutes} min of work</div>
          {w.soonerMinor > 0 && (
            <div className={textCss.quiet}>sooner: {formatMoney(w.soonerMinor, currency)}</div>
          )}
        </>
      ),
    },
    {
      id: 'choose',
      head: 'Choose',
      fixed: true,
      width: 14,
      cell: w => (
        <>
          {w.best && (
            <div className={textCss.good}>
              <b>★ best in sum</b>
              {w.says && <small> {w.says}</small>}
            </div>
          )}
          {keyOf(w) === chosen ? (
            <b>✓ chosen</b>
          ) : (
            choose && (
              <Button size="small" variant="outlined" disabled={busy} onClick={() => choose(w)}>
                {w.network === network ? 'Choose' : 'Send it there'}
              </Button>
            )
          )}
        </>
      ),
    },
  ];
}
