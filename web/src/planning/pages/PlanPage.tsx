import type { PlanChoices, PlanView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { PickNav } from '../../picking/parts/PickNav.js';
import { askPlan, choicesQuery, planQuery, stopPlan } from '../api.js';
import { EarlierPlans } from '../parts/EarlierPlans.js';
import { Question, WaitsForGoods } from '../parts/Question.js';
import { ReadyPlan } from '../parts/ReadyPlan.js';
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
      <PickNav />
      {plan?.state === 'ready' ? (
        <ReadyPlan plan={plan} about={choices.timesFrom} again={again}>
          {question}
        </ReadyPlan>
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
      {!plan && <EarlierPlans />}
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
