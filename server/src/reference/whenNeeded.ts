import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);

/**
 * A large package, loaded when it is first asked for and kept from then on: the server is ready sooner, and what nobody needs today is
 * never loaded. For what cannot wait for a promise; what can says `await import`.
 */
export const whenNeeded =
  <T>(name: string) =>
  (): T =>
    require(name) as T;
