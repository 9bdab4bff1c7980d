/** A picker on shift: seconds from now until which they pick; null when nobody has said. */
export interface Shift {
  until: number | null;
}

/** A walk to be given out: how long it takes, and the earliest due among its orders (infinite when nothing presses). */
export interface DueWalk {
  seconds: number;
  due: number;
}

/** When a walk is finished, in seconds from now, and by which picker; null for one that no shift has time for. */
export interface Turn {
  picker: number;
  finish: number;
}

/**
 * Gives walks to pickers as they will take them: the most urgent first (earliest due date; Jackson, 1955), each to whoever is free
 * first and still has time for it. Equal dues: the shorter walk, then the lower position. One turn for each walk, in the order given.
 */
export function giveOut(walks: readonly DueWalk[], shifts: readonly Shift[]): (Turn | null)[] {
  const free = shifts.map(() => 0);
  const turns: (Turn | null)[] = walks.map(() => null);
  const urgent = walks
    .map((w, i) => ({ ...w, i }))
    .sort((a, b) => (a.due === b.due ? a.seconds - b.seconds || a.i - b.i : a.due - b.due));
  for (const walk of urgent) {
    let picker = -1;
    free.forEach((at, p) => {
      const inTime = at + walk.seconds <= (shifts[p]!.until ?? Infinity);
      if (inTime && (picker === -1 || at < free[picker]!)) picker = p;
    });
    if (picker === -1) continue;
    free[picker]! += walk.seconds;
    turns[walk.i] = { picker, finish: free[picker]! };
  }
  return turns;
}
