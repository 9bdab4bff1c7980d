import { can, type ReturnView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { v7 } from 'uuid';
import { changed } from '../../asked.js';
import { ParcelsNav } from '../../parcels/parts/ParcelsNav.js';
import { CodeLink } from '../../parts/Code.js';
import { Form } from '../../parts/Form.js';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { useScanner } from '../../scans/useScanner.js';
import { returnsQuery, takeBack } from '../api.js';
import { Pieces } from '../parts/Pieces.js';

const open = (r: ReturnView) => r.pieces.filter(p => p.judged === 'open').length;

const COLUMNS: Column<ReturnView>[] = [
  { id: 'parcel', head: 'Parcel', width: 10, cell: r => <span className={textCss.code}>{r.parcel}</span> },
  {
    id: 'order',
    head: 'Order',
    width: 12,
    cell: r => <CodeLink to={`/orders/${r.orderId}`}>{r.order}</CodeLink>,
  },
  { id: 'buyer', head: 'Buyer', width: 16, cell: r => r.buyer },
  { id: 'at', head: 'Came back', width: 16, cell: r => `${moment(r.at)}, ${r.person ?? ''}` },
  {
    id: 'pieces',
    head: 'In it',
    width: 26,
    cell: r => r.pieces.map(p => `${p.quantity} × ${p.name}`).join(', '),
  },
  {
    id: 'state',
    head: 'State',
    width: 14,
    cell: r =>
      open(r) > 0 ? (
        <span className={`${textCss.stage} ${textCss.risk}`}>! {count(open(r), 'line')} to judge</span>
      ) : (
        <span className={`${textCss.stage} ${textCss.good}`}>✓ judged</span>
      ),
  },
];

/** What came back: taken in by scan, into quarantine, and judged piece by piece. */
export default function ReturnsPage() {
  const me = useMe();
  const client = useQueryClient();
  const [asked] = useSearchParams();
  const returns = useQuery(returnsQuery);
  const [opened, setOpened] = useState<string | null>(null);
  const take = useMutation({
    mutationFn: (what: string) => takeBack(v7(), what),
    onSuccess: async ({ id }, what) => {
      await changed(client, 'parcels', 'orders', 'stock');
      setOpened(id);
      say(`${what} is taken back. Look at what is in it.`);
    },
  });
  const may = can(me, 'returns.take');
  useScanner(text => may && take.mutate(text), { off: !may });
  return (
    <>
      <ParcelsNav />
      <Head
        title="Returns"
        about="Scan a parcel that came back. What is in it lies in quarantine until somebody has looked at it: it is sold again, or written off."
      />
      {may && (
        <TakeBack known={asked.get('code') ?? ''} busy={take.isPending} take={code => take.mutate(code)} />
      )}
      <ProblemNote error={take.error ?? returns.error} />
      <DataTable
        key={opened ?? ''}
        name="returns"
        label="Parcels that came back"
        rows={returns.data ?? []}
        idOf={r => r.id}
        columns={COLUMNS}
        arrangeable={false}
        opened={opened}
        inside={r => <Pieces back={r} />}
        empty={
          returns.isSuccess &&
          'Nothing came back yet. Parcels that cannot be delivered are named under Parcels before they do.'
        }
      />
    </>
  );
}

/** The code typed, where there is no scanner at hand. */
function TakeBack({ known, busy, take }: { known: string; busy: boolean; take: (code: string) => void }) {
  const [code, setCode] = useState(known);
  const ready = code.trim().length > 2 && !busy;
  return (
    <Form
      className={pageCss.fields}
      label="A parcel that came back"
      ready={ready}
      onSend={() => {
        take(code);
        setCode('');
      }}
    >
      <Line label="Parcel or tracking number" width={22} value={code} onType={setCode} />
      <Button type="submit" variant="contained" disabled={!ready}>
        Take it back
      </Button>
    </Form>
  );
}
