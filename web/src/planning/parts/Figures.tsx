import type { PlanView } from '@auk/contract';
import css from '../planning.module.css';

const kilometres = (metres: number): string => `${(metres / 1000).toFixed(2)} km`;
const METHOD = { cluster: 'by trolley', single: 'one by one', batch: 'as one heap' } as const;

/** What a plan comes to, and what it is measured by. */
export function Figures({ plan }: { plan: PlanView }) {
  const { metres, boundMetres, singlyMetres, firstComeMetres } = plan;
  const above =
    boundMetres > 0 ? Math.max(0, Math.round((100 * (metres - boundMetres)) / boundMetres)) : null;
  const others = plan.compared.filter(c => c.method !== plan.method);
  return (
    <dl className={css.figures} data-part="figures">
      <Figure
        figure={kilometres(metres)}
        says={`walked in all, ${plan.exact ? 'each walk the shortest there is' : 'each walk improved step by step'}`}
      />
      {singlyMetres !== null && singlyMetres > 0 && (
        <Figure
          figure={(metres / singlyMetres).toFixed(2)}
          says={`of the same orders one by one, up and down the aisles (${kilometres(singlyMetres)})`}
        />
      )}
      {firstComeMetres !== null && firstComeMetres > 0 && (
        <Figure
          figure={(metres / firstComeMetres).toFixed(2)}
          says={`of trolleys filled as orders came (${kilometres(firstComeMetres)})`}
        />
      )}
      {above !== null && (
        <Figure
          figure={`+ ${above} %`}
          says={`above what no plan can go below (${kilometres(boundMetres)})`}
        />
      )}
      <Figure figure={`${plan.minutes} min`} says={lateWords(plan)} />
      {others.map(c => (
        <Figure
          key={c.method}
          figure={`${c.minutes} min`}
          says={`${METHOD[c.method]} instead: ${c.lists} lists, ${kilometres(c.metres)}, ${c.late} late`}
        />
      ))}
    </dl>
  );
}

function lateWords({ late, lateAlready, lists }: PlanView): string {
  // When released lists are picked is not foretold here any more.
  if (lists.every(l => l.released !== null)) return 'of all pickers together';
  if (late === 0) return 'of all pickers together, ✓ nothing late';
  const already = lateAlready > 0 ? `, ${lateAlready} of them whatever is done` : '';
  return `of all pickers together, ✕ ${late} late${already}`;
}

function Figure({ figure, says }: { figure: string; says: string }) {
  return (
    <div>
      <dd>{figure}</dd>
      <dt>{says}</dt>
    </div>
  );
}
