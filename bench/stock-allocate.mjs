// stock.allocate: orders over 2,000 products with nested bundles are broken into parts and promised free stock in the core, against the
// least that could be done with the same wants: sorting them once and taking each from a map.
import { allocate, explode, seeded } from '@auk/core';

const PRODUCTS = 2_000;
const GOAL_MS = 1_000;

/** 1,500 pieces, 300 bundles of pieces, 200 bundles of bundles and pieces. */
function makeCatalogue(random) {
  const below = n => Math.floor(random() * n);
  const things = new Map();
  for (let i = 0; i < PRODUCTS; i++) {
    const level = i < 1_500 ? 0 : i < 1_800 ? 1 : 2;
    const from = level === 2 ? 1_800 : 1_500;
    const parts = new Map();
    for (let k = 0; level > 0 && k < 2 + below(4); k++)
      parts.set(`p${k === 0 && level === 2 ? 1_500 + below(300) : below(from)}`, 1 + below(4));
    things.set(`p${i}`, {
      kind: level === 0 ? 'piece' : 'bundle',
      recipeId: level === 0 ? null : `r${i}`,
      parts: [...parts].map(([productId, quantity]) => ({ productId, quantity })),
    });
  }
  return things;
}

const wantsOf = (orders, look) => {
  const one = new Map();
  return orders.flatMap(o =>
    o.lines.flatMap((l, k) => {
      if (!one.has(l.productId)) one.set(l.productId, explode(l.productId, 1, look).value);
      return one.get(l.productId).map((p, j) => ({
        key: `${o.key} ${k} ${j}`,
        orderKey: o.key,
        productId: p.productId,
        quantity: p.quantity * l.quantity,
        priority: o.priority,
        promised: o.promised,
        age: o.age,
      }));
    }),
  );
};

function median(work) {
  const times = [];
  for (let i = 0; i < 7; i++) {
    const start = performance.now();
    work();
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[3];
}

export async function* stockAllocate() {
  for (const mode of ['partly', 'whole'])
    for (const n of [50, 500, 5_000]) {
      const random = seeded(77);
      const below = k => Math.floor(random() * k);
      const things = makeCatalogue(random);
      const look = id => things.get(id);
      const orders = Array.from({ length: n }, (_, age) => ({
        key: `o${age}`,
        age,
        priority: below(40),
        promised: below(3) === 0 ? `2026-12-${10 + below(20)}` : null,
        lines: Array.from({ length: 1 + below(4) }, () => ({
          productId: `p${below(PRODUCTS)}`,
          quantity: 1 + below(3),
        })),
      }));
      const wants = wantsOf(orders, look);
      const free = new Map([...things.keys()].map(id => [id, below(Math.ceil(wants.length / 300))]));
      const value = median(() => allocate(wantsOf(orders, look), free, mode));
      const floor = median(() => {
        const left = new Map(free);
        for (const w of [...wants].sort((a, b) => a.priority - b.priority))
          left.set(w.productId, Math.max(0, left.get(w.productId) - w.quantity));
      });
      yield {
        n: `${n} ${mode}`,
        value,
        unit: 'ms',
        floor,
        ratio: value / floor,
        goal: n === 5_000 ? `under ${GOAL_MS} ms` : 'growth',
        holds: value < GOAL_MS,
      };
    }
}
