/** A rectangle on the floor of a pallet, from its left front corner. Tenths of a millimetre. */
export interface LayerBox {
  x: number;
  y: number;
  length: number;
  width: number;
}

/** A layer of equal boxes, and the most that no layer can pass. */
export interface BoxLayer {
  placed: LayerBox[];
  bound: number;
}

/** A cut of a rectangle into one, two or five parts that are filled by themselves. */
type Plan =
  | { count: number; kind: 'rows'; turned: boolean }
  | { count: number; kind: 'parts'; parts: Part[] };
interface Part {
  x: number;
  y: number;
  length: number;
  width: number;
}

/** Levels of cuts into five parts, one within another. */
const DEPTH = 3;
/** Cuts that are looked at for one layer. */
const STEPS = 60_000;

/**
 * As many boxes of one size as possible in one layer, each with its length along either side of the pallet: recursive cuts into two and
 * into five parts (the pinwheel), at places that sums of the box's sides reach, remembered by size of the part (Morabito and Morales 1998;
 * Birgin, Lobato and Morabito 2010, their first phase). `bound` is the least of the area and Barnes' bound on the reduced pallet, so that a
 * layer that reaches it is known to be best. All lengths are whole numbers of one unit; the same input gives the same layer.
 */
export function fillLayer(
  pallet: { length: number; width: number },
  box: { length: number; width: number },
): BoxLayer {
  const search = new LayerSearch(box.length, box.width, Math.max(pallet.length, pallet.width));
  const plan = search.deepen(pallet.length, pallet.width);
  const placed: LayerBox[] = [];
  search.place({ x: 0, y: 0, ...pallet }, plan, placed);
  const { length: l, width: w } = pallet;
  return { placed, bound: Math.min(search.bound(l, w), barnesBound(l, w, box.length, box.width)) };
}

class LayerSearch {
  private readonly reach: Int32Array;
  private readonly sums: number[];
  private readonly known = new Map<number, { plan: Plan; depth: number }>();
  private readonly bounds = new Map<number, number>();
  private steps = 0;

  constructor(
    private readonly a: number,
    private readonly b: number,
    private readonly most: number,
  ) {
    // What sums of the two sides reach; for each length the greatest of them that is no longer.
    const reached = new Uint8Array(most + 1);
    reached[0] = 1;
    for (let n = 0; n <= most; n++)
      if (reached[n]) {
        if (n + a <= most) reached[n + a] = 1;
        if (n + b <= most) reached[n + b] = 1;
      }
    this.reach = new Int32Array(most + 1);
    this.sums = [];
    for (let n = 0, last = 0; n <= most; n++) {
      if (reached[n]) {
        last = n;
        this.sums.push(n);
      }
      this.reach[n] = last;
    }
  }

  /** The least of the area bound and Barnes' bound, on the rectangle reduced to what sums of sides reach. */
  bound(length: number, width: number): number {
    const [l, w] = [this.reach[length]!, this.reach[width]!];
    const key = this.keyOf(l, w);
    const known = this.bounds.get(key);
    if (known !== undefined) return known;
    // A box that is longer than a side lies one way only, in rows.
    const long = Math.max(this.a, this.b);
    const found =
      long > Math.min(l, w)
        ? this.rows(l, w).count
        : Math.min(Math.floor((l * w) / (this.a * this.b)), barnesBound(l, w, this.a, this.b));
    this.bounds.set(key, found);
    return found;
  }

  /** Looked into level by level: what one level finds bounds the next. */
  deepen(length: number, width: number): Plan {
    let plan = this.best(length, width, 0);
    for (let depth = 1; depth <= DEPTH && plan.count < this.bound(length, width); depth++) {
      this.steps = STEPS;
      plan = this.best(length, width, depth);
    }
    return plan;
  }

  best(length: number, width: number, depth: number): Plan {
    const [l, w] = [this.reach[length]!, this.reach[width]!];
    const key = this.keyOf(l, w);
    const known = this.known.get(key);
    if (known && (known.depth >= depth || known.plan.count >= this.bound(l, w))) return known.plan;
    let plan = known?.plan ?? this.rows(l, w);
    const top = this.bound(l, w);
    if (plan.count < top) plan = this.inTwo(l, w, depth, plan);
    if (plan.count < top && depth > 0) plan = this.inFive(l, w, depth, plan);
    this.known.set(key, { plan, depth });
    return plan;
  }

  private keyOf(l: number, w: number): number {
    return l * (this.most + 1) + w;
  }

  /** All of them lie one way. */
  private rows(l: number, w: number): Plan {
    const [along, across] = [this.inRows(l, w, this.a, this.b), this.inRows(l, w, this.b, this.a)];
    return { count: Math.max(along, across), kind: 'rows', turned: across > along };
  }

  private inRows(l: number, w: number, a: number, b: number): number {
    return Math.floor(l / a) * Math.floor(w / b);
  }

  private inTwo(l: number, w: number, depth: number, before: Plan): Plan {
    let plan = before;
    const consider = (parts: Part[]) => {
      plan = this.better(plan, parts, depth);
    };
    for (const x of this.sums) {
      if (x === 0) continue;
      if (x > l / 2) break;
      consider([part(0, 0, x, w), part(x, 0, l - x, w)]);
    }
    for (const y of this.sums) {
      if (y === 0) continue;
      if (y > w / 2) break;
      consider([part(0, 0, l, y), part(0, y, l, w - y)]);
    }
    return plan;
  }

  /** Four parts around a fifth: none of the cuts goes through. */
  private inFive(l: number, w: number, depth: number, before: Plan): Plan {
    let plan = before;
    const top = this.bound(l, w);
    for (const x1 of this.sums) {
      if (x1 === 0) continue;
      if (x1 >= l) break;
      for (const x2 of this.sums) {
        if (x2 < x1) continue;
        if (x2 >= l) break;
        for (const y1 of this.sums) {
          if (y1 === 0) continue;
          if (y1 >= w) break;
          for (const y2 of this.sums) {
            if (y2 < y1) continue;
            if (y2 >= w) break;
            if (--this.steps < 0) return plan;
            plan = this.better(
              plan,
              [
                part(0, 0, x1, y2),
                part(0, y2, x2, w - y2),
                part(x1, y1, x2 - x1, y2 - y1),
                part(x1, 0, l - x1, y1),
                part(x2, y1, l - x2, w - y1),
              ],
              depth,
            );
            if (plan.count >= top) return plan;
          }
        }
      }
    }
    return plan;
  }

  /** Those parts, if they hold more; looked into only as far as their bounds leave hope. */
  private better(plan: Plan, parts: Part[], depth: number): Plan {
    let hope = 0;
    for (const p of parts) hope += this.bound(p.length, p.width);
    if (hope <= plan.count) return plan;
    let count = 0;
    for (const p of parts) {
      hope -= this.bound(p.length, p.width);
      count += this.best(p.length, p.width, depth - 1).count;
      if (count + hope <= plan.count) return plan;
    }
    return { count, kind: 'parts', parts };
  }

  place(at: Part, plan: Plan, into: LayerBox[]): void {
    if (plan.kind === 'parts') {
      for (const p of plan.parts)
        this.place({ ...p, x: at.x + p.x, y: at.y + p.y }, this.best(p.length, p.width, 0), into);
      return;
    }
    const [a, b] = plan.turned ? [this.b, this.a] : [this.a, this.b];
    for (let i = 0; i < Math.floor(at.length / a); i++)
      for (let j = 0; j < Math.floor(at.width / b); j++)
        into.push({ x: at.x + i * a, y: at.y + j * b, length: a, width: b });
  }
}

const part = (x: number, y: number, length: number, width: number): Part => ({ x, y, length, width });

/**
 * The most boxes of `a` by `b` in a rectangle, by what must stay empty when it is filled with rods of one side's length (Barnes 1979).
 * Whole numbers of one unit.
 */
export function barnesBound(l: number, w: number, a: number, b: number): number {
  const g = gcd(a, b);
  const [L, W, A, B] = [Math.floor(l / g), Math.floor(w / g), a / g, b / g];
  const left = (n: number): number => {
    const [r, s] = [L % n, W % n];
    return Math.min(r * s, (n - r) * (n - s));
  };
  const least = Math.max(left(A), left(B));
  const area = L * W;
  const empty = area % (A * B);
  const waste = empty >= least ? empty : empty + Math.ceil((least - empty) / (A * B)) * A * B;
  return Math.max(0, Math.floor((area - waste) / (A * B)));
}

function gcd(a: number, b: number): number {
  return b === 0 ? a : gcd(b, a % b);
}
