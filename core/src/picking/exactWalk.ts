import { CLASSES, classOf, edgesOf, type Frontier, frontier, lowerOf } from './frontier.js';
import type { Grid, GridPoint } from './grid.js';
import type { Visit } from './visit.js';

/** One step of the program: for each state the one before it and what was chosen to come there. */
interface Step {
  kind: 'across' | 'stretch' | 'crossing';
  column: number;
  block: number;
  before: Int16Array;
  chosen: Int16Array;
}

/** What can be chosen at a step: kinds, and what each costs. */
interface Choices {
  kinds: ArrayLike<number>;
  costs: ArrayLike<number>;
}

/** A stretch of an aisle between two crossings: its points from one to the other, which edges between them are odd, and the edge left out by kind (-1: none). */
interface Stretch extends Choices {
  nodes: readonly number[];
  odd: readonly boolean[];
  gaps: number[];
}

/** An edge of the walk, walked `times`. */
interface Edge {
  from: GridPoint;
  to: GridPoint;
  times: number;
}

/**
 * Shortest walks from one point of a grid to another through points that must be visited, exactly: the dynamic program over columns of
 * Ratliff and Rosenthal (Operations Research 31(3), 1983) for one block and of Roodbergen and de Koster (EJOR 133, 2001) for two.
 * Where start and end differ, they are the two ends with an odd number of edges (after Masae, Glock and Vichitkunakorn, International
 * Journal of Production Economics 226, 2020; from memory). Time is linear in columns and points.
 */
export class ExactWalks {
  private readonly tables: Frontier;
  private readonly turns: GridPoint[];
  /** For each column what it costs to go on to the next by each combination of crossings. */
  private readonly across: Choices[];
  /** For each block what a stretch without points offers: none, once, twice. */
  private readonly passages: Stretch[];
  private now: Float64Array;
  private next: Float64Array;

  constructor(
    private readonly grid: Grid,
    private readonly start: GridPoint,
    private readonly end: GridPoint,
  ) {
    this.tables = frontier(grid.ys.length);
    this.turns = start.column === end.column && start.y === end.y ? [] : [start, end];
    this.now = new Float64Array(this.tables.states);
    this.next = new Float64Array(this.tables.states);
    const kinds = Array.from({ length: 3 ** grid.ys.length }, (_, n) => n);
    this.across = grid.columns.slice(1).map(({ x }, i) => ({
      kinds,
      costs: kinds.map(n => (x - grid.columns[i]!.x) * walked(n)),
    }));
    this.passages = grid.ys.slice(1).map((high, block) => {
      const low = grid.ys[block]!;
      return {
        nodes: [low, high],
        odd: [],
        gaps: [],
        kinds: [classOf(0, 0, false), classOf(1, 1, true), classOf(2, 2, true)],
        costs: [0, high - low, 2 * (high - low)],
      };
    });
  }

  /** Length of the shortest walk, in the grid's units. */
  distance(visit: Visit): number {
    return this.direct(visit)?.distance ?? this.run(visit, null).distance;
  }

  /**
   * The shortest walk: its length, and the points and crossings it goes through in order, start and end included. A round may be walked
   * either way; it begins with the nearer of its first and last point.
   */
  walk(visit: Visit): { distance: number; through: GridPoint[] } {
    const direct = this.direct(visit);
    if (direct) return direct;
    const steps: Step[] = [];
    const { distance, state } = this.run(visit, steps);
    const through = eulerian(this.edges(visit, steps, state), this.start);
    const back = [...through].reverse();
    const turned = this.turns.length === 0 && this.toFirst(back, visit) < this.toFirst(through, visit);
    return { distance, through: turned ? back : through };
  }

  /** How far a walk goes until its first point. */
  private toFirst(through: readonly GridPoint[], visit: Visit): number {
    const first = through.findIndex(({ column, y }) => visit[column]?.includes(y));
    const x = (p: GridPoint) => this.grid.columns[p.column]!.x;
    return through
      .slice(1, first + 1)
      .reduce((n, p, i) => n + Math.abs(p.y - through[i]!.y) + Math.abs(x(p) - x(through[i]!)), 0);
  }

  /** Where everything lies between the same two crossings of one column, nothing is gained by leaving it. */
  private direct(visit: Visit): { distance: number; through: GridPoint[] } | null {
    const { column } = this.start;
    if (this.end.column !== column || visit.some((ys, c) => ys && c !== column)) return null;
    const here = visit[column] ?? [];
    const [from, to] = [this.start.y, this.end.y];
    const [low, high] = [Math.min(from, to, ...here), Math.max(from, to, ...here)];
    if (low !== high && this.grid.columns[column]!.aisle === null) return null;
    if (this.grid.ys.some(y => low < y && y < high)) return null;
    // Down first or up first, whichever end is nearer.
    const down = from - low + (high - to) <= high - from + (to - low);
    const ends = down ? [from, low, high, to] : [from, high, low, to];
    const legs = ends.slice(1).map((y, i) => [ends[i]!, y] as const);
    const through = legs.flatMap(([a, b]) => {
      const between = here.filter(y => Math.min(a, b) <= y && y <= Math.max(a, b));
      return [a, ...(a <= b ? between : between.reverse()), b];
    });
    return {
      distance: legs.reduce((n, [a, b]) => n + Math.abs(a - b), 0),
      through: through.filter((y, i) => y !== through[i - 1]).map(y => ({ column, y })),
    };
  }

  /** Goes over the columns; keeps every step when the walk itself is wanted. */
  private run(visit: Visit, steps: Step[] | null): { distance: number; state: number } {
    const { columns, ys } = this.grid;
    const { stretch, across, leadOn, complete, empty } = this.tables;
    this.now.fill(Infinity);
    this.now[empty] = 0;
    for (let column = 0; column < columns.length; column++) {
      this.visitCrossings(visit[column], column, steps);
      if (columns[column]!.aisle !== null)
        for (let block = 0; block < ys.length - 1; block++)
          this.step(
            stretch[block]!,
            CLASSES,
            this.stretch(visit[column], column, block),
            this.keep('stretch', column, block, steps),
          );
      const on = this.across[column];
      if (on) this.step(across, on.kinds.length, on, this.keep('across', column, 0, steps), leadOn);
    }
    let state = -1;
    for (let s = 0; s < this.now.length; s++)
      if (complete[s] && (state === -1 || this.now[s]! < this.now[state]!)) state = s;
    return { distance: this.now[state]!, state };
  }

  /** A crossing that is wanted, or where the walk begins or ends, gets its mark. */
  private visitCrossings(wanted: readonly number[] | undefined, column: number, steps: Step[] | null): void {
    const { ys } = this.grid;
    const ends = this.start.column === column || this.end.column === column;
    if (!wanted && !ends) return;
    for (let k = 0; k < ys.length; k++) {
      const turns = ends && this.turns.some(t => t.column === column && t.y === ys[k]);
      const here = turns || (this.start.column === column && this.start.y === ys[k]);
      if (!here && !wanted?.includes(ys[k]!)) continue;
      const table = (turns ? this.tables.turn : this.tables.visit)[k]!;
      this.step(table, 1, NOTHING_TO_CHOOSE, this.keep('crossing', column, k, steps));
    }
  }

  /** From every state that was reached, by every choice (of those that lead on), to the cheapest cost of what follows. Equal costs keep the first. */
  private step(
    table: Int16Array,
    stride: number,
    { kinds, costs }: Choices,
    kept: Step | null,
    leadOn?: readonly Int16Array[],
  ): void {
    const { now, next } = this;
    next.fill(Infinity);
    for (let s = 0; s < now.length; s++) {
      const so = now[s]!;
      if (so === Infinity) continue;
      const open = leadOn?.[s];
      const choices = open ? open.length : kinds.length;
      for (let c = 0; c < choices; c++) {
        const i = open ? open[c]! : c;
        const to = table[s * stride + kinds[i]!]!;
        if (to < 0 || so + costs[i]! >= next[to]!) continue;
        next[to] = so + costs[i]!;
        if (!kept) continue;
        kept.before[to] = s;
        kept.chosen[to] = i;
      }
    }
    this.now = next;
    this.next = now;
  }

  private keep(kind: Step['kind'], column: number, block: number, steps: Step[] | null): Step | null {
    if (!steps) return null;
    const states = this.tables.states;
    const step = { kind, column, block, before: new Int16Array(states), chosen: new Int16Array(states) };
    steps.push(step);
    return step;
  }

  /** The ways to serve a stretch: once through, twice through, or twice but for one gap: the first, the last or the widest other edge. */
  private stretch(wanted: readonly number[] | undefined, column: number, block: number): Stretch {
    if (!wanted && this.start.column !== column && this.end.column !== column) return this.passages[block]!;
    const [low, high] = [this.grid.ys[block]!, this.grid.ys[block + 1]!];
    const inside = (y: number) => low < y && y < high;
    const starts = this.start.column === column && inside(this.start.y);
    const turns = this.turns.filter(t => t.column === column && inside(t.y)).map(t => t.y);
    const nodes = [low];
    if (wanted) for (const y of wanted) if (inside(y)) nodes.push(y);
    if (starts || turns.length > 0) insert(nodes, starts ? [this.start.y, ...turns] : turns);
    nodes.push(high);
    if (nodes.length === 2) return this.passages[block]!;
    const stretch: Stretch & { kinds: number[]; costs: number[] } = {
      nodes,
      odd: [],
      gaps: [],
      kinds: [],
      costs: [],
    };
    stretch.odd = pattern(nodes, turns, false);
    offer(stretch, stretch.odd);
    offer(stretch, pattern(nodes, turns, true));
    return stretch;
  }

  /** The edges that the best history chose, from the last column back to the first. */
  private edges(visit: Visit, steps: readonly Step[], last: number): Edge[] {
    const edges: Edge[] = [];
    let state = last;
    for (const step of [...steps].reverse()) {
      const chosen = step.chosen[state]!;
      if (step.kind === 'across')
        this.grid.ys.forEach((y, k) => {
          const from = { column: step.column, y };
          edges.push({ from, to: { column: step.column + 1, y }, times: edgesOf(chosen, k) });
        });
      if (step.kind === 'stretch') edges.push(...this.served(visit, step, chosen));
      state = step.before[state]!;
    }
    return edges.filter(e => e.times > 0);
  }

  private served(visit: Visit, { column, block }: Step, chosen: number): Edge[] {
    const { nodes, odd, gaps, kinds } = this.stretch(visit[column], column, block);
    const between = nodes.slice(1).map((y, i) => ({ from: { column, y: nodes[i]! }, to: { column, y } }));
    // A stretch without points offers none, once, twice, in this order.
    if (odd.length === 0) return between.map(e => ({ ...e, times: chosen }));
    // The first edge is odd exactly when the kind says that an odd number ends at the lower crossing.
    const flipped = lowerOf(kinds[chosen]!) === 1;
    return between.map((e, i) => ({ ...e, times: odd[i] !== flipped ? 1 : i === gaps[chosen] ? 0 : 2 }));
  }
}

const NOTHING_TO_CHOOSE: Choices = { kinds: [0], costs: [0] };

/** Edges walked in a combination of a column's crossings. */
const walked = (n: number): number => (n === 0 ? 0 : (n % 3) + walked(Math.trunc(n / 3)));

/** Puts further points among sorted ones. */
function insert(nodes: number[], ys: readonly number[]): void {
  for (const y of ys) if (!nodes.includes(y)) nodes.push(y);
  nodes.sort((a, b) => a - b);
}

/** Which edges of a stretch are walked an odd number of times, when the first is or is not: it changes where the walk begins or ends. */
function pattern(nodes: readonly number[], turns: readonly number[], first: boolean): boolean[] {
  const odd = [first];
  for (let i = 1; i < nodes.length - 1; i++)
    odd.push(odd[i - 1]! !== (turns.length > 0 && turns.filter(t => t === nodes[i]).length === 1));
  return odd;
}

/** Adds what a pattern of odd and even edges offers: every edge walked, or one even edge left out. */
function offer(stretch: Stretch & { kinds: number[]; costs: number[] }, odd: readonly boolean[]): void {
  const { nodes, kinds, costs, gaps } = stretch;
  const last = odd.length - 1;
  const length = (i: number) => nodes[i + 1]! - nodes[i]!;
  let all = 0;
  let widest = 0;
  for (let i = 0; i <= last; i++) {
    all += odd[i] ? length(i) : 2 * length(i);
    if (i > 0 && i < last && !odd[i] && (widest === 0 || length(i) > length(widest))) widest = i;
  }
  const lower = odd[0] ? 1 : 2;
  const upper = odd[last] ? 1 : 2;
  const add = (kind: number, gap: number) => {
    kinds.push(kind);
    costs.push(gap === -1 ? all : all - 2 * length(gap));
    gaps.push(gap);
  };
  add(classOf(lower, upper, true), -1);
  if (widest > 0) add(classOf(lower, upper, false), widest);
  if (!odd[0]) add(classOf(0, upper, false), 0);
  if (!odd[last]) add(classOf(lower, 0, false), last);
}

/** A walk over every edge as often as it says, from `start` (Hierholzer's method). */
function eulerian(edges: readonly Edge[], start: GridPoint): GridPoint[] {
  const key = (p: GridPoint) => `${p.column}:${p.y}`;
  const left = edges.map(e => e.times);
  const at = new Map<string, { edge: number; to: GridPoint }[]>();
  edges.forEach(({ from, to }, edge) => {
    at.set(key(from), [...(at.get(key(from)) ?? []), { edge, to }]);
    at.set(key(to), [...(at.get(key(to)) ?? []), { edge, to: from }]);
  });
  const stack = [start];
  const through: GridPoint[] = [];
  while (stack.length > 0) {
    const here = stack.at(-1)!;
    const next = at.get(key(here))?.find(({ edge }) => left[edge]! > 0);
    if (next) {
      left[next.edge]!--;
      stack.push(next.to);
    } else through.push(stack.pop()!);
  }
  return through.reverse();
}
