import { HandoverView } from '@auk/contract';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { AnswerBar, OfflineNote } from '../../scans/AnswerBar.js';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { handoverPath, handoverQuery } from '../api.js';
import css from '../board.module.css';
import { Compared } from '../parts/Compared.js';
import { Acts, CallOff } from '../parts/HandoverActs.js';
import { MoveCutOff } from '../parts/MoveCutOff.js';

const FIRST = {
  says: 'Scan the parcels',
  next: 'The barcode of the label, or the parcel’s own.',
  tone: 'info' as const,
};

/** Handover: parcels are scanned onto the departure; closing it lets them leave. */
export default function HandoverPage() {
  const { no } = useParams();
  const client = useQueryClient();
  const view = useQuery(handoverQuery(no!));
  const put = (got: HandoverView | undefined) => client.setQueryData(handoverQuery(no!).queryKey, got);
  const { answer, offline, scan } = useScanSession<HandoverView | undefined, never>(
    `handover.${no}`,
    handoverPath(no!),
    no!,
    undefined,
    null,
    (_, after) => put(after),
  );
  const [asking, setAsking] = useState<'cancel' | 'move' | null>(null);
  useScanner(scan, { off: asking !== null });
  if (!view.data) return <Waiting error={view.error} />;
  const { parcels, state } = view.data;
  const scanned = parcels.filter(p => p.scanned).length;
  return (
    <>
      <Head
        title={`${view.data.carrierName}, ${view.data.name}`}
        tab={view.data.no}
        about={
          <>
            <span className={textCss.code}>{view.data.no}</span> · leaves {moment(view.data.cutOff)} ·{' '}
            {state === 'open' ? `${scanned} of ${parcels.length} scanned` : state}
          </>
        }
      >
        {state === 'closed' && (
          <Button
            href={`/api/v1/departures/${no}/sheet.pdf`}
            target="_blank"
            variant="outlined"
            color="secondary"
          >
            Handover sheet
          </Button>
        )}
      </Head>
      <div className={css.handover}>
        <section>
          <DataTable
            name="handover"
            label="Parcels of this departure"
            rows={parcels}
            idOf={p => p.no}
            columns={COLUMNS}
            arrangeable={false}
            empty="No parcel has a label for this departure yet. Parcels come here when their label is bought at the bench."
          />
        </section>
        <aside className={css.side}>
          <AnswerBar where="box" answer={answer ?? FIRST} />
          {offline && <OfflineNote words="◆ No answer yet. What was scanned is kept and sent again." />}
          {state === 'open' && <Compared view={view.data} />}
          {state === 'open' && (
            <Acts
              view={view.data}
              put={put}
              call={() => setAsking('cancel')}
              move={() => setAsking('move')}
            />
          )}
          {state === 'cancelled' && (
            <Alert severity="info">
              Called off: {view.data.reason} What was planned for it waits for the carrier’s next collection.
            </Alert>
          )}
          {state === 'closed' && (
            <Alert severity="success">
              Closed. The orders are Departed, and channels and buyers are being told.
              {view.data.manifest && ` The carrier’s list is ${view.data.manifest}.`}
            </Alert>
          )}
        </aside>
      </div>
      {asking === 'cancel' && <CallOff no={view.data.no} put={put} leave={() => setAsking(null)} />}
      {asking === 'move' && <MoveCutOff view={view.data} put={put} leave={() => setAsking(null)} />}
    </>
  );
}

type Parcel = HandoverView['parcels'][number];

const COLUMNS: Column<Parcel>[] = [
  { id: 'parcel', head: 'Parcel', width: 12, cell: p => <span className={textCss.code}>{p.no}</span> },
  { id: 'order', head: 'Order', width: 14, cell: p => <span className={textCss.code}>{p.order}</span> },
  { id: 'buyer', head: 'Buyer', width: 18, cell: p => p.buyer },
  { id: 'service', head: 'Service', width: 14, cell: p => p.service },
  {
    id: 'tracking',
    head: 'Tracking',
    width: 22,
    cell: p => <span className={textCss.code}>{p.tracking}</span>,
  },
  {
    id: 'on',
    head: 'On it',
    width: 14,
    cell: p =>
      p.held ? (
        <>
          <span className={`${textCss.stage} ${textCss.stop}`}>▲ must not go</span>
          <div className={textCss.quiet}>{p.held}</div>
        </>
      ) : p.scanned ? (
        <span className={`${textCss.stage} ${textCss.good}`}>✓ scanned</span>
      ) : (
        <span className={textCss.stage}>○ waits</span>
      ),
  },
];
