import type { PlanView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQueries, useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { floorQuery } from '../../places/api.js';
import { MOST_WALKS } from '../../places/line.js';
import { FloorMap } from '../../places/parts/FloorMap.js';
import { walkQuery } from '../api.js';
import css from '../planning.module.css';
import { usePlanActs } from '../usePlanActs.js';
import { Figures } from './Figures.js';
import { PlanLists } from './PlanLists.js';

interface ReadyProps {
  plan: PlanView;
  about: string;
  /** The press that plans again. */
  again: ReactNode;
  /** The question that the plan answers. */
  children: ReactNode;
}

/** A plan that is made: its figures, its lists, the walks on the map, and the press that releases them. */
export function ReadyPlan({ plan, about, again, children }: ReadyProps) {
  const [alone, setAlone] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { move, lock, release, error } = usePlanActs(plan);
  const open = plan.lists.filter(l => l.released === null);
  const wanted = open.filter(l => chosen.size === 0 || chosen.has(l.id));
  const drawn = alone ? [alone] : open.slice(0, MOST_WALKS).map(l => l.id);
  return (
    <>
      <Head title="Plan pick lists" about={about}>
        {again}
        {wanted.length > 0 && (
          <Button
            variant="contained"
            disabled={release.isPending}
            onClick={() =>
              release.mutate(
                wanted.map(l => l.id),
                { onSuccess: () => setChosen(new Set()) },
              )
            }
          >
            Release {count(wanted.length, 'list')}
          </Button>
        )}
      </Head>
      {children}
      <Figures plan={plan} />
      <ProblemNote error={error} />
      {release.data && <NotReleased plan={plan} answers={release.data.lists} />}
      <div className={css.both}>
        <div>
          <PlanLists
            plan={plan}
            drawn={drawn}
            show={id => setAlone(alone === id ? null : id)}
            chosen={chosen}
            choose={setChosen}
            move={(orderId, to) => move.mutate({ orderId, to })}
            lock={(listId, locked) => lock.mutate({ listId, locked })}
          />
        </div>
        <aside className={pageCss.side}>
          <h2>{mapTitle(plan, alone, drawn.length, open.length)}</h2>
          <WalksMap plan={plan} drawn={drawn} />
          <p className={textCss.quiet}>
            A circle is a stop; the same line stands beside the list. Walks begin and end at the triangle.
            Press a line to see its walk alone.
          </p>
        </aside>
      </div>
    </>
  );
}

function mapTitle(plan: PlanView, alone: string | null, drawn: number, open: number): string {
  if (alone) return `The walk of list ${plan.lists.find(l => l.id === alone)?.seq}`;
  return drawn < open ? `The first ${drawn} walks` : 'The walks';
}

function WalksMap({ plan, drawn }: { plan: PlanView; drawn: readonly string[] }) {
  const floor = useQuery(floorQuery);
  const walks = useQueries({
    queries: drawn.map(id => walkQuery(plan.id, id, plan.lists.find(l => l.id === id)?.orders.length ?? 0)),
  });
  if (!floor.data) return <Waiting error={floor.error} />;
  return (
    <FloorMap floor={floor.data} walks={walks.flatMap((w, nth) => (w.data ? [{ nth, walk: w.data }] : []))} />
  );
}

/** Lists that could not be released, and orders that stayed behind, with why. */
function NotReleased({
  plan,
  answers,
}: {
  plan: PlanView;
  answers: { listId: string; left: string[]; says: string | null }[];
}) {
  const told = answers.filter(a => a.says !== null || a.left.length > 0);
  if (told.length === 0) return null;
  return (
    <ul role="status">
      {told.map(a => (
        <li key={a.listId}>
          <b>List {plan.lists.find(l => l.id === a.listId)?.seq}:</b>{' '}
          {a.says ?? `left behind: ${a.left.join('; ')}.`}
        </li>
      ))}
    </ul>
  );
}
