import { can, ParcelListRow } from '@auk/contract';
import { count, formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { Code, CodeLink } from '../../parts/Code.js';
import { ExportLinks } from '../../parts/ExportLinks.js';
import { weight } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { Tick } from '../../parts/Tick.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { TrackMark } from '../../tracking/parts/TrackMark.js';
import { beginBatch, parcelsQuery } from '../api.js';
import { InsideParcel } from '../parts/InsideParcel.js';
import { ParcelsNav } from '../parts/ParcelsNav.js';

const MARK: Record<string, [shape: string, tone: string]> = {
  'handed over': ['◼', 'good'],
  labelled: ['◼', 'good'],
  packed: ['◼', ''],
  'labelled ahead': ['◑', ''],
  'being packed': ['◑', ''],
};

const orderOf = (p: ParcelListRow) => `/orders?stage=all&words=${p.order}`;

const COLUMNS: Column<ParcelListRow>[] = [
  { id: 'parcel', head: 'Parcel', width: 10, cell: p => <Code>{p.no}</Code> },
  {
    id: 'order',
    head: 'Order',
    width: 12,
    cell: p => <CodeLink to={orderOf(p)}>{p.channelNumber}</CodeLink>,
  },
  { id: 'buyer', head: 'Buyer', width: 14, cell: p => p.buyer },
  {
    id: 'state',
    head: 'State',
    width: 13,
    cell: p => {
      if (p.state === 'departed') return <TrackMark track={p.track} trouble={p.trouble} />;
      const [shape, tone] = MARK[p.state] ?? ['▲', 'risk'];
      return (
        <>
          <span className={`${textCss.stage} ${tone && textCss[tone]}`}>
            <span aria-hidden="true">{shape}</span>
            {p.state}
          </span>
          {p.why && <div className={textCss.quiet}>{p.why}</div>}
        </>
      );
    },
  },
  { id: 'service', head: 'Service', width: 12, cell: p => p.service },
  {
    id: 'tracking',
    head: 'Tracking',
    width: 18,
    cell: p => <span className={textCss.code}>{p.tracking}</span>,
  },
  { id: 'box', head: 'Box', width: 6, cell: p => p.box },
  { id: 'weight', head: 'Weight', right: true, width: 12, cell: p => p.weightMg && weight(p.weightMg) },
  {
    id: 'label',
    head: 'Label',
    right: true,
    width: 9,
    cell: p => p.minor !== null && formatMoney(p.minor, p.currency),
  },
  {
    id: 'departure',
    head: 'Departure',
    width: 14,
    cell: p => <span className={textCss.quiet}>{p.departure}</span>,
  },
];

/** Parcels in the house and those that left in the last hours. */
export default function ParcelsPage() {
  const me = useMe();
  const navigate = useNavigate();
  const [asked] = useSearchParams();
  const look = asked.get('look');
  const parcels = useQuery(parcelsQuery(look));
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set());
  const begin = useMutation({
    mutationFn: (nos: string[]) => beginBatch(nos),
    onSuccess: ({ id }) => navigate(`/parcels/batch/${id}`),
  });
  const troubled = parcels.data?.filter(p => p.trouble !== null) ?? [];
  const [onlyTrouble, setOnlyTrouble] = useState(false);
  const rows = (onlyTrouble ? troubled : parcels.data) ?? [];
  const packed = rows.filter(p => p.state === 'packed').map(p => p.no);
  const chosen = packed.filter(no => ids.has(no));
  const wanted = chosen.length > 0 ? chosen : packed;
  return (
    <>
      <ParcelsNav />
      <Head
        title="Parcels"
        about="In the house, those that left in the last twelve hours, and those that are in trouble on their way."
      >
        {can(me, 'labels.batch') && wanted.length > 0 && (
          <Button variant="contained" disabled={begin.isPending} onClick={() => begin.mutate(wanted)}>
            {`Price labels for ${count(wanted.length, 'parcel')}`}
          </Button>
        )}
      </Head>
      <ProblemNote error={parcels.error ?? begin.error} />
      <DataTable
        name="parcel"
        label="Parcels"
        rows={rows}
        idOf={p => p.no}
        columns={COLUMNS}
        chosen={can(me, 'labels.batch') ? { ids, set: setIds, nameOf: p => p.no } : null}
        inside={p => <InsideParcel no={p.no} />}
        opened={look}
        tools={
          <>
            {troubled.length > 0 && (
              <Tick
                label={`only the ${count(troubled.length, 'parcel')} in trouble`}
                checked={onlyTrouble}
                onTick={setOnlyTrouble}
              />
            )}
            <ExportLinks what="parcels" question="" />
          </>
        }
        empty={parcels.isSuccess && 'No parcel yet. The first is opened when a slip is scanned at the bench.'}
      />
    </>
  );
}
