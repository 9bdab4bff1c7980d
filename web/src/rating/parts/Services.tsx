import type { ComparedService, CompareView } from '@auk/contract';
import { formatMoney } from '@auk/core';
import { day } from '../../parts/format.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import css from '../rating.module.css';

interface Props {
  view: CompareView;
  keyOf: (row: ComparedService) => string;
  pick: (row: ComparedService) => void;
}

/** What stands out of a row, in words. */
function Marks({ row }: { row: ComparedService }) {
  const marks = [
    row.cheapest && 'cheapest in time',
    row.fastest && 'fastest',
    row.usual && 'taken when nobody chooses',
  ].filter(Boolean);
  return (
    <>
      {marks.map(m => (
        <div key={String(m)} className={css.mark}>
          {m}
        </div>
      ))}
    </>
  );
}

function columnsOf(view: CompareView, promised: string | null): Column<ComparedService>[] {
  const boxes = (r: ComparedService) => r.parcels.flatMap(p => view.parcels[p.parcel]!.box ?? []);
  return [
    {
      id: 'service',
      head: 'Service',
      width: 16,
      cell: r => (
        <>
          <b>{r.name}</b>
          <div className={textCss.quiet}>
            {r.account.number === '' ? r.carrierName : `${r.carrierName}, ${r.account.name}`}
          </div>
        </>
      ),
    },
    {
      id: 'boxes',
      head: view.order ? 'Boxes' : 'Paid as',
      width: 8,
      cell: r => (
        <>
          <b className={textCss.code}>{boxes(r).join(' + ')}</b>
          <div className={boxes(r).length > 0 ? textCss.quiet : undefined}>
            {r.parcels.map(p => p.quote.billable.says).join(' + ')}
          </div>
        </>
      ),
    },
    {
      id: 'arrives',
      head: 'Arrives',
      width: 11,
      cell: r => (
        <>
          {day(r.arrives)}
          {promised ? (
            <div className={`${textCss.quiet} ${r.keeps ? textCss.good : textCss.stop}`}>
              {r.keeps ? '✓ in time' : '✕ too late'}
            </div>
          ) : (
            r.collected && <div className={textCss.quiet}>collected {day(r.collected)}</div>
          )}
        </>
      ),
    },
    {
      id: 'price',
      head: view.order ? 'Label and box' : 'Label',
      right: true,
      width: 9,
      cell: r => (
        <>
          <b className={css.price}>
            {r.houseMinor === null ? 'no rate' : formatMoney(r.minor, view.currency)}
          </b>
          {r.currency !== view.currency && (
            <div className={textCss.quiet}>{formatMoney(r.labelMinor, r.currency)}</div>
          )}
        </>
      ),
    },
    {
      id: 'margin',
      head: 'Margin',
      right: true,
      width: 8,
      cell: r =>
        r.marginMinor !== null && (
          <span className={r.marginMinor < 0 ? textCss.stop : textCss.good}>
            {formatMoney(r.marginMinor, view.currency)}
          </span>
        ),
    },
    { id: 'marks', head: '', width: 12, cell: r => <Marks row={r} /> },
  ];
}

/** All services, the one to take first. */
export function Services({ view, keyOf, pick }: Props) {
  return (
    <div>
      <DataTable
        name="compare"
        label="Services"
        rows={view.rows}
        idOf={keyOf}
        columns={columnsOf(view, view.promised).filter(c => c.id !== 'margin' || view.paidMinor !== null)}
        arrangeable={false}
        onCursor={pick}
        empty="No service takes this parcel there. What stands below says why."
      />
      {[...view.silent.map(s => `${s.carrierName}: ${s.why}`)].map(says => (
        <p key={says} className={textCss.stop}>
          {says}
        </p>
      ))}
      {view.dropped.length > 0 && (
        <p className={textCss.quiet}>
          Not offered: {view.dropped.map(d => `${d.carrierName}: ${d.why}`).join(' · ')}
        </p>
      )}
    </div>
  );
}
