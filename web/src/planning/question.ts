import type { PlanChoices, PlanIn } from '@auk/contract';
import { DateTime } from 'luxon';
import { v7 } from 'uuid';

/** What a person has chosen on the page, before it is asked. */
export interface Wish {
  /** Orders that leave by this cut-off, ISO; empty for all. */
  by: string;
  tag: string;
  area: string;
  apart: boolean;
  pickers: number;
  /** When the shift ends, ISO; empty when nobody has said. */
  until: string;
  method: PlanIn['method'];
  trolley: PlanIn['trolley'];
}

export const firstWish = (choices: PlanChoices): Wish => ({
  by: '',
  tag: '',
  area: '',
  apart: false,
  pickers: 2,
  until: '',
  method: 'compare',
  trolley: choices.trolley,
});

/** The wish that a plan was made for; what is gone meanwhile counts as all. */
export function wishOf(question: PlanIn, choices: PlanChoices): Wish {
  const leaving = choices.departures.filter(d => question.departures.includes(d.id));
  return {
    by: leaving.at(-1)?.cutOff ?? '',
    tag: question.tags[0] ?? '',
    area: question.areas[0] ?? '',
    apart: question.apart,
    pickers: question.pickers,
    until: question.until ?? '',
    method: question.method,
    trolley: question.trolley,
  };
}

/** The question of a wish; the locked lists of the plan before stay. */
export const questionOf = (wish: Wish, choices: PlanChoices, keep: string | null): PlanIn => ({
  id: v7(),
  departures: wish.by === '' ? [] : choices.departures.filter(d => d.cutOff <= wish.by).map(d => d.id),
  tags: wish.tag === '' ? [] : [wish.tag],
  areas: wish.area === '' ? [] : [wish.area],
  apart: wish.apart,
  pickers: wish.pickers,
  until: wish.until === '' ? null : wish.until,
  method: wish.method,
  trolley: wish.trolley,
  keep,
});

/** The cut-offs by which orders leave, each with how many leave by then. */
export function cutOffs(choices: PlanChoices): { cutOff: string; orders: number }[] {
  let orders = 0;
  const by = new Map<string, number>();
  for (const d of choices.departures) {
    orders += d.orders;
    by.set(d.cutOff, orders);
  }
  return [...by].map(([cutOff, n]) => ({ cutOff, orders: n }));
}

const STEP_MINUTES = 30;
const SHIFT_HOURS = 12;

/** When a shift may end: each half hour from the next one on, for twelve hours. */
export function shiftEnds(now: DateTime): string[] {
  const first = now.startOf('hour').plus({ minutes: now.minute < STEP_MINUTES ? STEP_MINUTES : 60 });
  return Array.from(
    { length: (SHIFT_HOURS * 60) / STEP_MINUTES },
    (_, i) =>
      first
        .plus({ minutes: i * STEP_MINUTES })
        .toUTC()
        .toISO()!,
  );
}
