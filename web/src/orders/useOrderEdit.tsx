import { ChangedMeanwhile, OrderEdit, OrderView } from '@auk/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useRef, useState } from 'react';
import { Refused } from '../api.js';
import { changed } from '../asked.js';
import { editOrder, orderQuery } from '../parts/api.js';
import { Ask } from '../parts/ask.js';
import { Changes } from '../parts/Changes.js';
import { moment } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import textCss from '../parts/text.module.css';

type Edit = Partial<Omit<OrderEdit, 'version'>>;
/** An edit, or what it is once the edits before it are saved. */
export type EditOf = Edit | ((now: OrderView) => Edit);
/** Saves an edit, after those that were made before it. */
export type Save = (edit: EditOf) => void;

/** What a panel of an order needs. */
export interface PanelProps {
  order: OrderView;
  save: Save;
  can: boolean;
}

interface Failed {
  edit: Edit;
  error: unknown;
}

/**
 * Saves edits of an order one after another: two fields left quickly by Tab do not conflict with each other, for the second goes
 * with the version that the first one made. What another person changed meanwhile, and what an edit undoes, is shown before anything
 * is saved; of several that fail, the first is told.
 */
export function useOrderEdit(order: OrderView): {
  save: Save;
  epoch: number;
  notes: ReactNode;
} {
  const client = useQueryClient();
  const [epoch, setEpoch] = useState(0);
  const [failed, setFailed] = useState<Failed | null>(null);
  const { id } = order.row;
  /** The edit that was sent last, as it was sent. */
  const sent = useRef<Edit>({});
  const edit = useMutation({
    scope: { id: `edit of order ${id}` },
    mutationFn: ({ change, version }: { change: EditOf; version?: number }) => {
      const now = client.getQueryData(orderQuery(id).queryKey) ?? order;
      sent.current = typeof change === 'function' ? change(now) : change;
      return editOrder(id, { version: version ?? now.version, ...sent.current });
    },
    onError: error => setFailed(first => first ?? { edit: sent.current, error }),
    // The next one waits until the new version is here.
    onSettled: () => changed(client, 'orders', 'stock', 'lists', 'parcels'),
  });
  const problem = failed?.error instanceof Refused ? failed.error.problem : null;
  const meanwhile = problem?.status === 409 && problem.facts ? (problem.facts as ChangedMeanwhile) : null;
  const undoes = (problem?.facts as { undoes?: string } | undefined)?.undoes === 'undo';
  const again = (more: { undo?: boolean }, version?: number) => {
    setFailed(null);
    edit.mutate({ change: { ...failed!.edit, ...more }, ...(version !== undefined && { version }) });
  };
  // What was typed and not saved goes; the fields show the order as it is.
  const leave = () => {
    setFailed(null);
    setEpoch(epoch + 1);
    void changed(client, 'orders', 'stock', 'lists', 'parcels');
  };
  const notes = (
    <>
      {meanwhile && (
        <Ask
          title={problem!.detail}
          act="Save mine on top"
          wide
          onLeave={leave}
          onAct={() => again({}, meanwhile.version)}
          busy={edit.isPending}
        >
          {meanwhile.since.map(s => (
            <div key={s.at} style={{ marginBottom: 12 }}>
              <p>
                <b>{s.person ?? 'Auk'}</b> <span className={textCss.quiet}>{moment(s.at)}</span> {s.says}
              </p>
              <Changes changes={s.changes} currency={order.row.currency} />
            </div>
          ))}
          <p className={textCss.quiet}>Leave it, and the order stays as they made it.</p>
        </Ask>
      )}
      {undoes && (
        <Ask
          title="Change it all the same?"
          act="Do it"
          danger
          onLeave={leave}
          onAct={() => again({ undo: true })}
          busy={edit.isPending}
        >
          <p>{problem!.detail}</p>
        </Ask>
      )}
      {!meanwhile && !undoes && <ProblemNote error={failed?.error} />}
    </>
  );
  const save = (change: EditOf) => {
    if (!edit.isPending) setFailed(null);
    edit.mutate({ change });
  };
  return { save, epoch, notes };
}
