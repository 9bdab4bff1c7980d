/** An expected failure is a value: `ok` tells which half is there. */
export type Result<T, F> = { ok: true; value: T } | { ok: false; problem: F };

/** Wraps a success. Example: `ok(3)` is `{ ok: true, value: 3 }`. */
export const ok = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });

/** Wraps an expected failure. Example: `fail('empty')` is `{ ok: false, problem: 'empty' }`. */
export const fail = <F>(problem: F): { ok: false; problem: F } => ({ ok: false, problem });
