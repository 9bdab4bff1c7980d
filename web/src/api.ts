import type { Problem } from '@auk/contract';

/** A refusal of the server, in its words. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** The server could not be reached at all. */
export class Unreached extends Error {
  override name = 'Unreached';
}

/** Asks the server; throws Refused with the server's words, or Unreached. */
export async function ask<T>(method: 'GET' | 'POST', path: string, body?: unknown): Promise<T> {
  const raw = body instanceof Blob;
  let response: Response;
  try {
    const headers: Record<string, string> =
      body === undefined ? {} : { 'content-type': raw ? 'application/octet-stream' : 'application/json' };
    response = await fetch(`/api/v1/${path}`, {
      method,
      headers,
      ...(body === undefined ? {} : { body: raw ? body : JSON.stringify(body) }),
    });
  } catch {
    throw new Unreached('Auk cannot be reached. Check the network; what was scanned is kept.');
  }
  const text = await response.text();
  if (response.ok) return (text === '' ? undefined : JSON.parse(text)) as T;
  throw new Refused(readProblem(text, response.status));
}

function readProblem(text: string, status: number): Problem {
  try {
    return JSON.parse(text) as Problem;
  } catch {
    return {
      type: 'about:blank',
      title: 'Refused',
      status,
      detail: 'The server answered something unreadable.',
      cure: 'Try again.',
      retry: 'later',
    };
  }
}

/** Sends a file and saves the file that comes back. */
export async function download(path: string, body: Blob, name: string): Promise<void> {
  const response = await fetch(`/api/v1/${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body,
  });
  if (!response.ok) throw new Refused(readProblem(await response.text(), response.status));
  const link = document.createElement('a');
  link.href = URL.createObjectURL(await response.blob());
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

export const get = <T>(path: string) => ask<T>('GET', path);
export const post = <T>(path: string, body: unknown = {}) => ask<T>('POST', path, body);

/** What and why of any error, with its cure. */
export function wordsOf(error: unknown): { says: string; cure: string } {
  if (error instanceof Refused) return { says: error.problem.detail, cure: error.problem.cure };
  return { says: error instanceof Error ? error.message : 'Something went wrong.', cure: 'Try again.' };
}
