import { can, HandoverAnswer, HandoverView, Person } from '@auk/contract';
import type { Answer } from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { get, post, Refused } from '../api.js';
import { Ask } from '../parts/ask.js';
import { moment } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import { playTone } from '../scans/sounds.js';
import { useScanner } from '../scans/useScanner.js';
import './board.css';

/** Handover: parcels are scanned onto the departure; closing it lets them leave. */
export default function HandoverPage({ me }: { me: Person }) {
  const { no } = useParams();
  const client = useQueryClient();
  const view = useQuery({ queryKey: ['handover', no], queryFn: () => get(HandoverView, `departures/${no}`) });
  const [answer, setAnswer] = useState<Answer | null>(null);
  const scan = useMutation({
    mutationFn: (text: string) => post(HandoverAnswer, `departures/${no}/scans`, { text }),
    onSuccess: got => {
      setAnswer(got.answer);
      playTone(got.answer.tone);
      client.setQueryData(['handover', no], got.view);
    },
    onError: () => playTone('wrong'),
    scope: { id: 'handover' },
  });
  const close = useMutation({
    mutationFn: (leaveBehind: boolean) => post(HandoverView, `departures/${no}/close`, { leaveBehind }),
    onSuccess: got => client.setQueryData(['handover', no], got),
  });
  const [calling, setCalling] = useState(false);
  const [reason, setReason] = useState('');
  const cancel = useMutation({
    mutationFn: () => post(HandoverView, `departures/${no}/cancel`, { reason }),
    onSuccess: got => {
      client.setQueryData(['handover', no], got);
      setCalling(false);
    },
  });
  useScanner(text => scan.mutate(text), { off: calling });
  if (!view.data) return <ProblemNote error={view.error} />;
  const { parcels, state } = view.data;
  const scanned = parcels.filter(p => p.scanned).length;
  const missing = parcels.length - scanned;
  const held = parcels.filter(p => p.scanned && p.held).length;
  const refusedForMissing = close.error instanceof Refused && close.error.problem.facts !== undefined;
  return (
    <div className="handover">
      <section>
        <div className="headline">
          <div className="grow">
            <h1>
              {view.data.carrierName}, {view.data.name}
            </h1>
            <p className="quiet">
              <span className="code">{view.data.no}</span> · leaves {moment(view.data.cutOff)} ·{' '}
              {state === 'open' ? `${scanned} of ${parcels.length} scanned` : state}
            </p>
          </div>
          {state === 'closed' && (
            <Button href={`/api/v1/departures/${no}/sheet.pdf`} target="_blank" variant="outlined">
              Handover sheet
            </Button>
          )}
        </div>
        {parcels.length === 0 && (
          <p className="empty">
            No parcel has a label for this departure yet. Parcels come here when their label is bought at the
            bench.
          </p>
        )}
        {parcels.length > 0 && (
          <table className="list">
            <thead>
              <tr>
                <th>Parcel</th>
                <th>Order</th>
                <th>Buyer</th>
                <th>Service</th>
                <th>Tracking</th>
                <th>On it</th>
              </tr>
            </thead>
            <tbody>
              {parcels.map(p => (
                <tr key={p.no}>
                  <td className="code">{p.no}</td>
                  <td className="code">{p.order}</td>
                  <td>{p.buyer}</td>
                  <td>{p.service}</td>
                  <td className="code">{p.tracking}</td>
                  <td>
                    {p.held ? (
                      <span className="stage stop">
                        ▲ must not go
                        <small className="quiet"> {p.held}</small>
                      </span>
                    ) : p.scanned ? (
                      <span className="stage good">✓ scanned</span>
                    ) : (
                      <span className="stage">○ waits</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      <aside>
        <div className={`answerbox ${answer?.tone ?? ''}`} role="status">
          {answer ? (
            <>
              <b>{answer.says}</b>
              {answer.next}
            </>
          ) : (
            <>
              <b>Scan the parcels</b>
              The barcode of the label, or the parcel's own.
            </>
          )}
        </div>
        <ProblemNote error={scan.error ?? close.error} />
        {state === 'open' && (
          <div style={{ marginTop: 16, display: 'grid', gap: 8 }}>
            <Button
              variant="contained"
              size="large"
              disabled={close.isPending}
              onClick={() => close.mutate(false)}
            >
              {scanned === 0 ? 'Close departure, nothing left' : `Close departure with ${scanned}`}
            </Button>
            {refusedForMissing && missing + held > 0 && (
              <Button variant="outlined" onClick={() => close.mutate(true)}>
                Close, leave {missing + held} for the next
              </Button>
            )}
            {can(me, 'departures.cancel') && (
              <Button variant="outlined" color="error" onClick={() => setCalling(true)}>
                Cancel the collection
              </Button>
            )}
          </div>
        )}
        {state === 'cancelled' && (
          <p className="done-note">
            Called off: {view.data.reason} What was planned for it waits for the carrier’s next collection.
          </p>
        )}
        {calling && (
          <Ask
            title="Cancel this collection?"
            act="Cancel the collection"
            danger
            ready={reason.trim().length >= 3}
            busy={cancel.isPending}
            error={cancel.error}
            onAct={() => cancel.mutate()}
            onLeave={() => setCalling(false)}
          >
            <p>
              Nothing leaves with it. Its orders and parcels wait for the carrier’s next collection; what was
              scanned comes off the truck.
            </p>
            <TextField
              label="Why it does not come"
              autoFocus
              fullWidth
              margin="dense"
              value={reason}
              onChange={e => setReason(e.target.value)}
            />
          </Ask>
        )}
        {state === 'closed' && (
          <p className="done-note">Closed. The orders are Departed and the channels are being told.</p>
        )}
      </aside>
    </div>
  );
}
