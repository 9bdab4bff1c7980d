import type { PlanChoices, PlanView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { changed } from '../../asked.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { floorQuery } from '../../places/api.js';
import { MOST_WALKS } from '../../places/line.js';
import { FloorMap } from '../../places/parts/FloorMap.js';
import {
  askPlan,
  choicesQuery,
  lockList,
  moveOrder,
  planQuery,
  releaseLists,
  stopPlan,
  walkQuery,
} from '../api.js';
import { Figures } from '../parts/Figures.js';
import { PlanLists } from '../parts/PlanLists.js';
import { Question, WaitsForGoods } from '../parts/Question.js';
import css from '../planning.module.css';
import { firstWish, questionOf, type Wish, wishOf } from '../question.js';

/** Plans pick lists: what to plan is a sentence, and below it stands the plan that answers it. */
export default function PlanPage() {
  const { id } = useParams();
  const choices = useQuery(choicesQuery);
  const plan = useQuery({ ...planQuery(id ?? ''), enabled: id !== undefined });
  if (!choices.data || (id && !plan.data)) return <Waiting error={choices.error ?? plan.error} />;
  return <Planning key={id ?? ''} choices={choices.data} plan={plan.data ?? null} />;
}

function Planning({ choices, plan }: { choices: PlanChoices; plan: PlanView | null }) {
  const [wish, setWish] = useState<Wish>(() => (plan ? wishOf(plan.question, choices) : firstWish(choices)));
  const navigate = useNavigate();
  const client = useQueryClient();
  const ask = useMutation({
    mutationFn: () => askPlan(questionOf(wish, choices, plan?.id ?? null)),
    onSuccess: async made => {
      client.setQueryData(planQuery(made.id).queryKey, made);
      await navigate(`/pick/plan/${made.id}`);
    },
  });
  const again = (
    <Button
      variant={plan?.state === 'ready' ? 'outlined' : 'contained'}
      disabled={ask.isPending || plan?.state === 'planning' || choices.clear === 0}
      onClick={() => ask.mutate()}
    >
      {plan ? 'Plan again' : 'Plan'}
    </Button>
  );
  const question = (
    <>
      <Question choices={choices} wish={wish} set={setWish} />
      <ProblemNote error={ask.error} />
    </>
  );
  return (
    <>
      {plan?.state === 'ready' ? (
        <Ready plan={plan} about={choices.timesFrom} again={again}>
          {question}
        </Ready>
      ) : (
        <>
          <Head title="Plan pick lists" about={choices.timesFrom}>
            {again}
          </Head>
          {question}
          {plan?.state === 'planning' && <UnderWay plan={plan} />}
          {plan?.state === 'failed' && <p className={textCss.stop}>✕ {plan.says}</p>}
        </>
      )}
      {choices.clear === 0 && !plan && <p className={textCss.empty}>{NOTHING}</p>}
      <WaitsForGoods choices={choices} />
    </>
  );
}

const NOTHING =
  'No order is Clear, so there is nothing to plan. Orders become Clear when nothing stops them and their goods are there.';

/** How far planning is, and a press that ends it with the best plan so far. */
function UnderWay({ plan }: { plan: PlanView }) {
  const stop = useMutation({ mutationFn: () => stopPlan(plan.id) });
  const so = plan.progress;
  return (
    <div role="status">
      <LinearProgress aria-label="Planning" />
      <p>
        {so
          ? `Looking for shorter walks: ${count(so.lists, 'list')} of ${so.metres} m so far.`
          : 'Gathering the orders.'}{' '}
        <Button size="small" disabled={!so || stop.isPending} onClick={() => stop.mutate()}>
          Stop here
        </Button>
      </p>
    </div>
  );
}

interface ReadyProps {
  plan: PlanView;
  about: string;
  /** The press that plans again. */
  again: ReactNode;
  /** The question that the plan answers. */
  children: ReactNode;
}

/** A plan that is made: its figures, its lists, the walks on the map, and the press that releases them. */
function Ready({ plan, about, again, children }: ReadyProps) {
  const [alone, setAlone] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { move, lock, release, error } = useActs(plan);
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

/** What is done to a plan; each answer is the plan as it is then. */
function useActs(plan: PlanView) {
  const client = useQueryClient();
  const took = (now: PlanView) => client.setQueryData(planQuery(plan.id).queryKey, now);
  const move = useMutation({
    mutationFn: (act: { orderId: string; to: string | null }) =>
      moveOrder(plan.id, { version: plan.version, ...act }),
    onSuccess: took,
  });
  const lock = useMutation({
    mutationFn: (act: { listId: string; locked: boolean }) =>
      lockList(plan.id, { version: plan.version, ...act }),
    onSuccess: took,
  });
  const release = useMutation({
    mutationFn: (ids: string[]) => releaseLists(plan.id, ids),
    onSuccess: async ({ lists }) => {
      const out = lists.flatMap(l => l.no ?? []);
      if (out.length > 0) say(`Released: ${out.join(', ')}.`);
      await changed(client, 'plans', 'lists', 'orders', 'stock');
    },
  });
  return { move, lock, release, error: move.error ?? lock.error ?? release.error };
}
