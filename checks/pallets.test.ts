import { fillLayer, seeded } from '@auk/core';
import highs from 'highs';
import { expect, test } from 'vitest';

/** The most boxes of l by w in one layer of L by W, by HiGHS: a yes or no for each place and turn, and no cell of the floor twice. */
async function most(L: number, W: number, l: number, w: number): Promise<number> {
  const solver = await highs();
  const cells = new Map<string, string[]>();
  const names: string[] = [];
  for (const [turn, a, b] of l === w
    ? ([['u', l, w]] as const)
    : ([
        ['u', l, w],
        ['t', w, l],
      ] as const))
    for (let x = 0; x + a <= L; x++)
      for (let y = 0; y + b <= W; y++) {
        const name = `${turn}${x}_${y}`;
        names.push(name);
        for (let i = x; i < x + a; i++)
          for (let j = y; j < y + b; j++) {
            const cell = `${i}_${j}`;
            cells.set(cell, [...(cells.get(cell) ?? []), name]);
          }
      }
  if (names.length === 0) return 0;
  const rows = [...cells].map(([cell, of]) => ` c${cell}: ${of.join(' + ')} <= 1`);
  const program = `Maximize\n total: ${names.join(' + ')}\nSubject To\n${rows.join('\n')}\nBinary\n ${names.join(' ')}\nEnd`;
  const solved = solver.solve(program, { mip_rel_gap: 0 });
  expect(solved.Status).toBe('Optimal');
  return Math.round(solved.ObjectiveValue);
}

// Source: HiGHS through highs 1.15.3, which knows nothing of how layers are filled.
test('layers of small pallets hold as many boxes as an exact solver finds, and the bound is never below it', async () => {
  const random = seeded(41);
  const upTo = (least: number, n: number) => least + Math.floor(random() * n);
  for (let i = 0; i < 40; i++) {
    const [L, W] = [upTo(6, 8), upTo(5, 7)];
    const [l, w] = [upTo(2, 4), upTo(1, 3)];
    const { placed, bound } = fillLayer({ length: L, width: W }, { length: l, width: w });
    const exact = await most(L, W, l, w);
    expect(placed.length, `${L} x ${W}, ${l} x ${w}`).toBe(exact);
    expect(bound, `${L} x ${W}, ${l} x ${w}`).toBeGreaterThanOrEqual(exact);
  }
});
