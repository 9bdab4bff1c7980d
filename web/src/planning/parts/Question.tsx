import type { PlanChoices } from '@auk/contract';
import { count } from '@auk/core';
import { DateTime } from 'luxon';
import { Link } from 'react-router';
import { Choice, type Options } from '../../parts/Choice.js';
import { clock, day, moment } from '../../parts/format.js';
import pageCss from '../../parts/page.module.css';
import sentenceCss from '../../parts/sentence.module.css';
import { TypedNumber } from '../../parts/TypedNumber.js';
import textCss from '../../parts/text.module.css';
import { cutOffs, shiftEnds, type Wish } from '../question.js';

interface Props {
  choices: PlanChoices;
  wish: Wish;
  set: (wish: Wish) => void;
}

const METHODS: Options<Wish['method']> = [
  ['compare', 'the way that takes least time'],
  ['cluster', 'trolley, a tote or more for each order'],
  ['batch', 'as heaps, sorted at a put wall'],
  ['single', 'one order a walk'],
];

/** What to plan, as a sentence. */
export function Question({ choices, wish, set }: Props) {
  const ends = shiftEnds(DateTime.now());
  const until = wish.until === '' || ends.includes(wish.until) ? ends : [wish.until, ...ends];
  return (
    <div className={sentenceCss.sentence} data-part="sentence">
      <b>{choices.clear}</b> Clear {choices.clear === 1 ? 'order' : 'orders'}, of them those that leave{' '}
      <Choice
        inSentence
        label="Leave by"
        value={wish.by}
        options={[
          ['', 'at any time'],
          ...cutOffs(choices).map(c => [c.cutOff, `by ${moment(c.cutOff)} (${c.orders})`] as const),
        ]}
        onChoose={by => set({ ...wish, by })}
      />
      , with{' '}
      <Choice
        inSentence
        label="Tag"
        value={wish.tag}
        options={[['', 'any tag'], ...choices.tags.map(t => [t.tag, `${t.tag} (${t.orders})`] as const)]}
        onChoose={tag => set({ ...wish, tag })}
      />
      , in{' '}
      <Choice
        inSentence
        label="Area"
        value={wish.area}
        options={[['', 'any area'], ...choices.areas.map(a => [a.area, `${a.area} (${a.orders})`] as const)]}
        onChoose={area => set({ ...wish, area })}
      />
      ,{' '}
      <Choice
        inSentence
        label="Areas"
        value={wish.apart ? 'apart' : 'together'}
        options={[
          ['together', 'areas walked together'],
          ['apart', 'each area walked apart'],
        ]}
        onChoose={v => set({ ...wish, apart: v === 'apart' })}
      />
      ; for{' '}
      <TypedNumber
        label="Pickers"
        value={wish.pickers}
        least={1}
        most={60}
        onType={n => set({ ...wish, pickers: Math.round(n) })}
      />{' '}
      {wish.pickers === 1 ? 'picker' : 'pickers'} until{' '}
      <Choice
        inSentence
        label="Until"
        value={wish.until}
        options={[['', 'all is picked'], ...until.map(u => [u, clock(u)] as const)]}
        onChoose={u => set({ ...wish, until: u })}
      />
      , by{' '}
      <Choice
        inSentence
        label="Method"
        value={wish.method}
        options={METHODS.filter(([m]) => m !== 'batch' || choices.cells > 0)}
        onChoose={method => set({ ...wish, method })}
      />
      .
      <Carries wish={wish} set={set} />
    </div>
  );
}

/** What a trolley carries, as a second sentence. */
function Carries({ wish, set }: Pick<Props, 'wish' | 'set'>) {
  const { trolley } = wish;
  const number = (key: keyof Wish['trolley'], label: string, least: number, most: number) => (
    <TypedNumber
      label={label}
      value={trolley[key]}
      least={least}
      most={most}
      onType={n => set({ ...wish, trolley: { ...trolley, [key]: key === 'totes' ? Math.round(n) : n } })}
    />
  );
  return (
    <div className={sentenceCss.small}>
      A trolley carries {number('totes', 'Totes', 1, 60)} totes of{' '}
      {number('toteLitres', 'Litres of a tote', 1, 500)} litres and{' '}
      {number('toteKg', 'Kilograms of a tote', 0.5, 200)} kg,{' '}
      {number('trolleyKg', 'Kilograms of a trolley', 1, 2_000)} kg in all.
    </div>
  );
}

/** So many of the orders that wait are named. */
const NAMED = 10;

/** Orders that cannot be planned yet: what they lack, and when it is expected. */
export function WaitsForGoods({ choices }: Pick<Props, 'choices'>) {
  const { waiting, waitingOrders } = choices;
  if (waitingOrders === 0) return null;
  const more = waitingOrders - Math.min(NAMED, waiting.length);
  return (
    <section className={pageCss.panel}>
      <h2>
        ◆ {count(waitingOrders, 'order')} {waitingOrders === 1 ? 'waits' : 'wait'} for goods
      </h2>
      <ul className={pageCss.answers}>
        {waiting.slice(0, NAMED).map(w => (
          <li key={w.no}>
            <span className={textCss.code}>{w.no}</span> {w.lacks},{' '}
            {w.expected ? `expected ${day(w.expected)}` : 'no day known'}
          </li>
        ))}
      </ul>
      {more > 0 && <Link to="/orders?stage=Short">and {count(more, 'more order')}</Link>}
    </section>
  );
}
