/**
 * Spreads a whole amount over shares by their weights so that the parts are whole and sum to it exactly: each gets the whole part
 * of its quota, what is left goes one by one to the largest remainders, ties to the earlier share (method of the largest remainder).
 * `total` is any whole number, weights are whole and not negative; when all are zero the shares count alike. No shares give no parts.
 * Example: `apportion(100, [1, 1, 1])` is `[34, 33, 33]`.
 */
export function apportion(total: number, weights: readonly number[]): number[] {
  if (weights.length === 0) return [];
  const all = weights.every(w => w === 0) ? weights.map(() => 1) : weights;
  const sum = all.reduce((s, w) => s + BigInt(w), 0n);
  const amount = BigInt(Math.abs(total));
  const parts = all.map(w => (amount * BigInt(w)) / sum);
  const remainders = all.map((w, i) => ({ i, rest: (amount * BigInt(w)) % sum }));
  remainders.sort((a, b) => (a.rest > b.rest ? -1 : a.rest < b.rest ? 1 : a.i - b.i));
  const left = Number(amount - parts.reduce((s, p) => s + p, 0n));
  for (const { i } of remainders.slice(0, left)) parts[i]! += 1n;
  return parts.map(p => Math.sign(total) * Number(p) || 0);
}
