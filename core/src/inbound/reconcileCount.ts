/** Units of one product in one box: what was told to be in it, and what was counted there. */
export interface CountedLine {
  box: string;
  sku: string;
  sent: number;
  counted: number;
}

/** Where what was counted is not what was sent. `missing` and `surplus` are units; a stranger was not sent at all. */
export interface CountDifference {
  box: string;
  sku: string;
  missing: number;
  surplus: number;
  stranger: boolean;
}

/** What was counted against what was sent, per product and box. */
export interface CountedIn {
  sent: number;
  counted: number;
  differences: CountDifference[];
  /** By product over all boxes: a unit that lies in another box than was told is neither missing nor surplus there. */
  products: { sku: string; sent: number; counted: number }[];
}

/**
 * Compares a count with what was sent. Rows of one box and product are added up, so that a count that is told in parts is one. Example:
 * 24 sent and 22 counted are 2 missing.
 */
export function reconcileCount(lines: readonly CountedLine[]): CountedIn {
  const cells = new Map<string, CountedLine>();
  for (const l of lines) {
    const key = JSON.stringify([l.box, l.sku]);
    const known = cells.get(key) ?? { box: l.box, sku: l.sku, sent: 0, counted: 0 };
    cells.set(key, { ...known, sent: known.sent + l.sent, counted: known.counted + l.counted });
  }
  const products = new Map<string, { sku: string; sent: number; counted: number }>();
  for (const { sku, sent, counted } of cells.values()) {
    const known = products.get(sku) ?? { sku, sent: 0, counted: 0 };
    products.set(sku, { sku, sent: known.sent + sent, counted: known.counted + counted });
  }
  const differences = [...cells.values()]
    .filter(c => c.sent !== c.counted)
    .map(({ box, sku, sent, counted }) => ({
      box,
      sku,
      missing: Math.max(0, sent - counted),
      surplus: Math.max(0, counted - sent),
      stranger: sent === 0,
    }));
  const sum = (of: 'sent' | 'counted') => [...cells.values()].reduce((n, c) => n + c[of], 0);
  return { sent: sum('sent'), counted: sum('counted'), differences, products: [...products.values()] };
}
