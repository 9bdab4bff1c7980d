import { ChangedMeanwhile, OrderEdit, OrderView } from '@auk/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Refused, send } from '../api.js';
import { Ask } from '../parts/ask.js';
import { Changes } from '../parts/Changes.js';
import { moment } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';

type Edit = Partial<Omit<OrderEdit, 'version'>>;

/** Saves edits of an order one by one. What another person changed meanwhile, and what an edit undoes, is shown before anything is saved. */
export function useOrderEdit(order: OrderView): {
  save: (edit: Edit) => void;
  epoch: number;
  notes: ReactNode;
} {
  const client = useQueryClient();
  const [epoch, setEpoch] = useState(0);
  const edit = useMutation({
    mutationFn: (e: Edit & { version?: number }) =>
      send(`orders/${order.row.id}/edit`, { version: order.version, ...e }),
    onSettled: () => client.invalidateQueries(),
  });
  const problem = edit.error instanceof Refused ? edit.error.problem : null;
  const meanwhile = problem?.status === 409 && problem.facts ? (problem.facts as ChangedMeanwhile) : null;
  const undoes = (problem?.facts as { undoes?: string } | undefined)?.undoes === 'undo';
  const mine = edit.variables;
  // What was typed and not saved goes; the fields show the order as it is.
  const leave = () => {
    edit.reset();
    setEpoch(epoch + 1);
    void client.invalidateQueries();
  };
  const notes = (
    <>
      {meanwhile && mine && (
        <Ask
          title={problem!.detail}
          act="Save mine on top"
          wide
          onLeave={leave}
          onAct={() => edit.mutate({ ...mine, version: meanwhile.version })}
          busy={edit.isPending}
        >
          {meanwhile.since.map(s => (
            <div key={s.at} style={{ marginBottom: 12 }}>
              <p>
                <b>{s.person ?? 'Auk'}</b> <span className="quiet">{moment(s.at)}</span> {s.says}
              </p>
              <Changes changes={s.changes} currency={order.row.currency} />
            </div>
          ))}
          <p className="quiet">Leave it, and the order stays as they made it.</p>
        </Ask>
      )}
      {undoes && mine && (
        <Ask
          title="Change it all the same?"
          act="Do it"
          danger
          onLeave={leave}
          onAct={() => edit.mutate({ ...mine, undo: true })}
          busy={edit.isPending}
        >
          <p>{problem!.detail}</p>
        </Ask>
      )}
      {!meanwhile && !undoes && <ProblemNote error={edit.error} />}
    </>
  );
  return { save: e => edit.mutate(e), epoch, notes };
}
