import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);

/** A large package, loaded when it is first asked for: the server is ready sooner, and what nobody needs today is never loaded. */
export function whenNeeded<T>(name: string): () => T {
  let loaded: T | undefined;
  return () => {
    loaded ??= require(name) as T;
    return loaded;
  };
}
