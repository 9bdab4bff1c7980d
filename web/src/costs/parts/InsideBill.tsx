import type { BillLineView } from '@auk/contract';
import { formatMoney, type Verdict } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { CodeLink } from '../../parts/Code.js';
import pageCss from '../../parts/page.module.css';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { billQuery, claimPath } from '../api.js';

const WORDS: Record<Verdict, string> = {
  agrees: '✓ as agreed',
  cheaper: '✓ less than agreed',
  dearer: '! more than agreed',
  heavier: '! billed heavier',
  twice: '▲ billed before',
  voided: '▲ was given back',
  unknown: '▲ not ours',
};

/** A bill row by row, what is claimed first, with the file that claims it. */
export function InsideBill({ id }: { id: string }) {
  const bill = useQuery(billQuery(id));
  if (!bill.data) return <Waiting error={bill.error} />;
  const { currency, claimMinor, rows } = bill.data;
  const columns: Column<BillLineView>[] = [
    { id: 'row', head: 'Row', right: true, width: 5, cell: r => r.seq + 1 },
    {
      id: 'tracking',
      head: 'Tracking',
      width: 18,
      cell: r => <span className={textCss.code}>{r.tracking}</span>,
    },
    {
      id: 'parcel',
      head: 'Parcel',
      width: 14,
      cell: r =>
        r.parcel && <CodeLink to={`/orders?stage=all&words=${r.order}`}>{`${r.parcel} ${r.order}`}</CodeLink>,
    },
    { id: 'billed', head: 'Billed', right: true, width: 9, cell: r => formatMoney(r.minor, currency) },
    {
      id: 'agreed',
      head: 'Agreed',
      right: true,
      width: 9,
      cell: r => r.agreedMinor !== null && formatMoney(r.agreedMinor, currency),
    },
    {
      id: 'verdict',
      head: 'Compared',
      width: 36,
      cell: r => (
        <>
          <span className={`${textCss.stage} ${r.claimMinor > 0 ? textCss.risk : textCss.good}`}>
            {WORDS[r.verdict]}
          </span>
          <div className={textCss.quiet}>{r.says}</div>
        </>
      ),
    },
    {
      id: 'claim',
      head: 'To claim',
      right: true,
      width: 9,
      cell: r => r.claimMinor > 0 && formatMoney(r.claimMinor, currency),
    },
  ];
  return (
    <div>
      <div className={pageCss.inline}>
        {claimMinor > 0 && (
          <Button href={claimPath(id)} variant="outlined" download>
            Claim file, {formatMoney(claimMinor, currency)}
          </Button>
        )}
      </div>
      <DataTable
        name="billRows"
        label="Rows of the bill"
        rows={rows}
        idOf={r => String(r.seq)}
        columns={columns}
        arrangeable={false}
      />
    </div>
  );
}
