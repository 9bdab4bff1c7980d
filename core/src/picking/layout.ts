/** An aisle, walked along y from one end to the other; x, from and to in tenths of a millimetre. Places stand along it. */
export interface Aisle {
  code: string;
  x: number;
  from: number;
  to: number;
}

/** A cross aisle, walked along x from one end to the other; it meets every aisle whose stretch it touches. Tenths of a millimetre. */
export interface CrossAisle {
  code: string;
  y: number;
  from: number;
  to: number;
}

/**
 * A point where somebody can stand: on an aisle (`along` counts from the aisle's `from`) or on a cross aisle (`along` counts from its
 * `from`), by their position in the layout.
 */
export type Spot = { aisle: number; along: number } | { cross: number; along: number };

/** The house's floor: its aisles and cross aisles, where walks begin, and where they end. Lengths in tenths of a millimetre. */
export interface Layout {
  aisles: Aisle[];
  crossAisles: CrossAisle[];
  start: Spot;
  end: Spot;
}

/** Letters that count: 0 is A, 25 is Z, 26 is AA. What aisles are called while nobody calls them otherwise. */
export const lettersOf = (n: number): string =>
  n < 26
    ? String.fromCharCode(65 + n)
    : lettersOf(Math.floor(n / 26) - 1) + String.fromCharCode(65 + (n % 26));

/**
 * A layout of aisles A, B, C ... of one length and as far apart, between a front and a back cross aisle, with another one at `middle`
 * when it is given. Walks begin and end at the front of the first aisle.
 */
export function evenLayout(even: { aisles: number; length: number; pitch: number; middle?: number }): Layout {
  const { aisles, length, pitch, middle } = even;
  const ys = middle === undefined ? [0, length] : [0, middle, length];
  const names = ys.length === 2 ? ['FRONT', 'BACK'] : ['FRONT', 'MIDDLE', 'BACK'];
  return {
    aisles: Array.from({ length: aisles }, (_, i) => ({
      code: lettersOf(i),
      x: i * pitch,
      from: 0,
      to: length,
    })),
    crossAisles: ys.map((y, i) => ({ code: names[i]!, y, from: 0, to: Math.max(1, aisles - 1) * pitch })),
    start: { cross: 0, along: 0 },
    end: { cross: 0, along: 0 },
  };
}

/** Something of a layout that cannot be walked as it is written; `of` names the thing, `says` and `cure` are sentences. */
export interface LayoutProblem {
  code: 'no aisles' | 'zero length' | 'twice' | 'off the floor' | 'island' | 'overlap';
  of: string;
  says: string;
  cure: string;
}

/** x and y of a spot in tenths of a millimetre. The spot must be of this layout. */
export function pointOf(layout: Layout, spot: Spot): { x: number; y: number } {
  if ('aisle' in spot) {
    const a = layout.aisles[spot.aisle]!;
    return { x: a.x, y: a.from + spot.along };
  }
  const c = layout.crossAisles[spot.cross]!;
  return { x: c.from + spot.along, y: c.y };
}

/** True when the spot lies on an aisle or cross aisle of the layout. */
export function onFloor(layout: Layout, spot: Spot): boolean {
  const way = 'aisle' in spot ? layout.aisles[spot.aisle] : layout.crossAisles[spot.cross];
  return way !== undefined && spot.along >= 0 && spot.along <= way.to - way.from;
}

/** True where an aisle and a cross aisle meet. */
export const meet = (a: Aisle, c: CrossAisle): boolean =>
  a.x >= c.from && a.x <= c.to && c.y >= a.from && c.y <= a.to;

/**
 * Everything that keeps a layout from being walked: ways without length, codes that stand twice, aisles on top of each other, a start
 * or end that lies on no way, and ways that nobody can reach from the start (islands). Empty when it can be used.
 */
export function layoutProblems(layout: Layout): LayoutProblem[] {
  if (layout.aisles.length === 0)
    return [
      {
        code: 'no aisles',
        of: '',
        says: 'The layout has no aisle.',
        cure: 'Give at least one aisle and the cross aisle at its end.',
      },
    ];
  const problems = [...lengths(layout), ...twice(layout), ...overlaps(layout)];
  for (const [of, spot] of [
    ['start', layout.start],
    ['end', layout.end],
  ] as const) {
    if (!onFloor(layout, spot))
      problems.push({
        code: 'off the floor',
        of,
        says: `The ${of} of walks lies on no aisle and no cross aisle.`,
        cure: `Put the ${of} onto a cross aisle, within its length.`,
      });
  }
  return problems.length > 0 ? problems : islands(layout);
}

const ways = (layout: Layout) => [
  ...layout.aisles.map(a => ({ ...a, name: `Aisle ${a.code}` })),
  ...layout.crossAisles.map(c => ({ ...c, name: `Cross aisle ${c.code}` })),
];

const lengths = (layout: Layout): LayoutProblem[] =>
  ways(layout)
    .filter(w => w.to <= w.from)
    .map(w => ({
      code: 'zero length',
      of: w.code,
      says: `${w.name} has no length: it ends where it begins, or before.`,
      cure: 'Let it end after it begins.',
    }));

function twice(layout: Layout): LayoutProblem[] {
  const seen = new Set<string>();
  return ways(layout).flatMap(w => {
    const again = seen.has(w.code);
    seen.add(w.code);
    return again
      ? [
          {
            code: 'twice' as const,
            of: w.code,
            says: `The code ${w.code} stands twice.`,
            cure: 'Give each aisle and cross aisle a code of its own.',
          },
        ]
      : [];
  });
}

function overlaps(layout: Layout): LayoutProblem[] {
  const sorted = [...layout.aisles].sort((a, b) => a.x - b.x || a.from - b.from);
  return sorted.flatMap((a, i) => {
    const before = sorted[i - 1];
    return before && before.x === a.x && before.to > a.from
      ? [
          {
            code: 'overlap' as const,
            of: a.code,
            says: `Aisle ${a.code} lies on top of aisle ${before.code}.`,
            cure: 'Give it another x, or let it begin where the other ends.',
          },
        ]
      : [];
  });
}

/** Ways that hang together with nothing the start hangs together with. */
function islands(layout: Layout): LayoutProblem[] {
  const all = ways(layout);
  const aisles = layout.aisles.length;
  const first = 'aisle' in layout.start ? layout.start.aisle : aisles + layout.start.cross;
  const reached = new Set([first]);
  const open = [first];
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    all.forEach((_, i) => {
      if (reached.has(i) || at! < aisles === i < aisles) return;
      const [a, c] = at! < aisles ? [at!, i] : [i, at!];
      if (!meet(layout.aisles[a]!, layout.crossAisles[c - aisles]!)) return;
      reached.add(i);
      open.push(i);
    });
  }
  return all
    .filter((_, i) => !reached.has(i))
    .map(w => ({
      code: 'island',
      of: w.code,
      says: `${w.name} cannot be reached from the start.`,
      cure: 'Join it by a cross aisle.',
    }));
}
