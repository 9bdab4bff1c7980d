import { can, type InboundRow } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { CodeLink } from '../../parts/Code.js';
import { Field } from '../../parts/Field.js';
import { day } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { networksQuery, setPrefix, shipmentsQuery } from '../api.js';
import { NewShipment } from '../parts/NewShipment.js';
import { InboundMark } from '../stageMark.js';
import { useAct } from '../useAct.js';

const to = (r: InboundRow) => `/inbound/${r.no}`;
const COLUMNS: Column<InboundRow>[] = [
  { id: 'no', head: 'No.', width: 7, cell: r => <CodeLink to={to(r)}>{r.no}</CodeLink> },
  { id: 'name', head: 'Call name', width: 16, cell: r => <b>{r.name}</b> },
  { id: 'stage', head: 'Stage', width: 11, cell: r => <InboundMark stage={r.stage} /> },
  {
    id: 'to',
    head: 'To',
    width: 24,
    cell: r => (
      <>
        {r.network} <span className={textCss.quiet}>{r.centers}</span>
      </>
    ),
  },
  { id: 'products', head: 'Products', right: true, width: 8, cell: r => r.products },
  { id: 'units', head: 'Units', right: true, width: 8, cell: r => r.units },
  { id: 'leaves', head: 'Leaves', width: 10, cell: r => (r.shipDay ? day(r.shipDay) : '') },
  {
    id: 'look',
    head: 'To look at',
    width: 22,
    cell: r => r.trouble && <span className={textCss.risk}>▲ {r.trouble}</span>,
  },
];

/** Shipments to fulfillment centers: those that are under way, then the last that are done. */
export default function InboundListPage() {
  const me = useMe();
  const navigate = useNavigate();
  const shipments = useQuery(shipmentsQuery);
  const networks = useQuery(networksQuery);
  const [begun, setBegun] = useState(false);
  const prefix = useAct(setPrefix);
  const rows = shipments.data ?? [];
  const open = rows.filter(r => r.stage !== 'Closed' && r.stage !== 'Cancelled').length;
  return (
    <>
      <Head
        title="Inbound"
        about={`Goods sent to fulfillment centers. ${count(open, 'shipment')} under way.`}
      >
        {can(me, 'inbound.change') && (
          <Button variant="contained" onClick={() => setBegun(true)}>
            New shipment
          </Button>
        )}
      </Head>
      <ProblemNote error={shipments.error ?? networks.error ?? prefix.error} />
      {begun && networks.data && (
        <NewShipment
          networks={networks.data.networks}
          leave={() => setBegun(false)}
          begun={no => void navigate(`/inbound/${no}`)}
        />
      )}
      <DataTable
        name="inbound"
        label="Shipments"
        rows={rows}
        idOf={r => r.no}
        columns={COLUMNS}
        to={to}
        empty={shipments.isSuccess && 'Nothing was sent to a center yet. Begin a shipment at the right.'}
        tools={
          <span className={textCss.quiet} style={{ display: 'flex', gap: 8, alignItems: 'baseline' }}>
            Company prefix
            <span style={{ width: '8rem' }}>
              <Field
                label="Company prefix"
                value={networks.data?.prefix ?? ''}
                placeholder="7 to 10 digits"
                readOnly={!can(me, 'inbound.book')}
                onSave={text => {
                  if (!/^\d{7,10}$/.test(text)) return 'A company prefix is 7 to 10 digits.';
                  prefix.mutate(text);
                  return null;
                }}
              />
            </span>
          </span>
        }
      />
    </>
  );
}
