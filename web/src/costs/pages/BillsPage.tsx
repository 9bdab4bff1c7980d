import type { BillRow, BillTaken } from '@auk/contract';
import { formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { carriersQuery } from '../../carriers/api.js';
import { ParcelsNav } from '../../parcels/parts/ParcelsNav.js';
import { Choice } from '../../parts/Choice.js';
import { FilePick } from '../../parts/FilePick.js';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useCurrency } from '../../setup/useCurrency.js';
import { billsQuery, takeBill } from '../api.js';
import { InsideBill } from '../parts/InsideBill.js';

const COLUMNS: Column<BillRow>[] = [
  { id: 'number', head: 'Bill', width: 14, cell: b => <span className={textCss.code}>{b.number}</span> },
  { id: 'carrier', head: 'Carrier', width: 18, cell: b => b.carrierName },
  { id: 'at', head: 'Brought', width: 16, cell: b => moment(b.at) },
  { id: 'lines', head: 'Rows', right: true, width: 8, cell: b => b.lines },
  { id: 'minor', head: 'Billed', right: true, width: 12, cell: b => formatMoney(b.minor, b.currency) },
  {
    id: 'claim',
    head: 'To claim',
    width: 22,
    cell: b =>
      b.claimMinor > 0 ? (
        <span className={`${textCss.stage} ${textCss.risk}`}>
          ! {formatMoney(b.claimMinor, b.currency)} in {b.differ} of {b.lines} rows
        </span>
      ) : (
        <span className={`${textCss.stage} ${textCss.good}`}>✓ as agreed</span>
      ),
  },
];

/** Bills of carriers, compared with what was bought. */
export default function BillsPage() {
  const bills = useQuery(billsQuery);
  const [taken, setTaken] = useState<BillTaken | null>(null);
  return (
    <>
      <ParcelsNav />
      <Head
        title="Carrier bills"
        about="A bill as CSV is compared row by row with the labels that were bought: what is dearer, heavier, billed twice, given back or unknown can be claimed."
      />
      <Bring taken={setTaken} />
      {taken?.bad.map(b => (
        <p key={b.row} className={textCss.stop}>
          ▲ Row {b.row}: {b.why}
        </p>
      ))}
      {taken && taken.bad.length > 0 && (
        <p>Nothing of this bill was taken. Correct these rows, then choose the file again.</p>
      )}
      <ProblemNote error={bills.error} />
      <DataTable
        key={taken?.id ?? ''}
        name="bills"
        label="Carrier bills"
        rows={bills.data ?? []}
        idOf={b => b.id}
        columns={COLUMNS}
        arrangeable={false}
        opened={taken?.id ?? null}
        inside={b => <InsideBill id={b.id} />}
        empty={bills.isSuccess && 'No bill was brought yet.'}
      />
    </>
  );
}

function Bring({ taken }: { taken: (got: BillTaken) => void }) {
  const client = useQueryClient();
  const own = useCurrency();
  const carriers = useQuery(carriersQuery);
  const [about, setAbout] = useState({ carrier: '', number: '', currency: '' });
  const carrier = about.carrier || (carriers.data?.[0]?.code ?? '');
  const currency = about.currency || own;
  const bring = useMutation({
    mutationFn: (file: File) => takeBill({ carrier, number: about.number, currency, name: file.name }, file),
    onSuccess: async got => {
      if (got.id) {
        await changed(client, 'bills');
        setAbout({ ...about, number: '' });
      }
      taken(got);
    },
  });
  const ready = about.number.trim() !== '' && carrier !== '';
  return (
    <>
      <div className={pageCss.fields}>
        <Choice
          label="Carrier"
          value={carrier}
          options={(carriers.data ?? []).map(c => [c.code, c.name] as const)}
          onChoose={code => setAbout({ ...about, carrier: code })}
        />
        <Line
          label="Number of the bill"
          width={14}
          value={about.number}
          onType={number => setAbout({ ...about, number })}
        />
        <Line
          label="Currency"
          capitals
          most={3}
          width={6}
          value={currency}
          onType={next => setAbout({ ...about, currency: next })}
        />
        {ready ? (
          <FilePick label="Choose the bill" accept=".csv,text/csv" onFile={file => bring.mutate(file)}>
            <Button component="span" variant="contained" tabIndex={-1} disabled={bring.isPending}>
              Choose the CSV
            </Button>
          </FilePick>
        ) : (
          <span className={textCss.quiet}>Type the number of the bill, then choose its file.</span>
        )}
      </div>
      <ProblemNote error={bring.error} />
    </>
  );
}
