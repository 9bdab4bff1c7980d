import { Problem } from '@auk/contract';
import type { z } from 'zod';

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

/** The header of a server that has its answers checked, as it is in tests. */
const CHECKED = 'auk-answers';

/** Asks the server; throws Refused with the server's words, or Unreached. */
async function ask(
  method: 'GET' | 'POST',
  path: string,
  form: z.ZodType | null,
  body?: unknown,
  timeoutMs?: number,
): Promise<unknown> {
  const raw = body instanceof Blob;
  const headers: Record<string, string> =
    body === undefined ? {} : { 'content-type': raw ? 'application/octet-stream' : 'application/json' };
  const { response, text } = await reached(async () => {
    const response = await fetch(`/api/v1/${path}`, {
      method,
      headers,
      ...(body === undefined ? {} : { body: raw ? body : JSON.stringify(body) }),
      ...(timeoutMs === undefined ? {} : { signal: AbortSignal.timeout(timeoutMs) }),
    });
    return { response, text: await response.text() };
  });
  if (!response.ok) throw new Refused(readProblem(text, response.status));
  const answer = readAnswer(text);
  if (form && (import.meta.env.DEV || response.headers.has(CHECKED))) form.parse(answer);
  return answer;
}

/** What a network gives; Unreached where it is not there, also when it breaks off in the middle. */
async function reached<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch {
    throw new Unreached('Auk cannot be reached. Check the network; what was scanned is kept.');
  }
}

/** A network that wants its own sign-in answers everything with its page. */
function readAnswer(text: string): unknown {
  if (text === '') return undefined;
  try {
    return JSON.parse(text);
  } catch {
    throw new Unreached('Something else answered in place of Auk. Check which network this device is on.');
  }
}

function readProblem(text: string, status: number): Problem {
  try {
    return Problem.parse(JSON.parse(text));
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
  const { response, file } = await reached(async () => {
    const response = await fetch(`/api/v1/${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body,
    });
    return { response, file: await response.blob() };
  });
  if (!response.ok) throw new Refused(readProblem(await file.text(), response.status));
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Reads what the contract says the answer is; in development and tests the answer is checked against it. */
export const get = <F extends z.ZodType>(form: F, path: string) =>
  ask('GET', path, form) as Promise<z.output<F>>;

/** Does something that answers as the contract says. */
export const post = <F extends z.ZodType>(form: F, path: string, body: unknown = {}, timeoutMs?: number) =>
  ask('POST', path, form, body, timeoutMs) as Promise<z.output<F>>;

/** Does something whose answer is not read. */
export const send = async (path: string, body: unknown = {}): Promise<void> => {
  await ask('POST', path, null, body);
};

/** What and why of any error, with its cure. */
export function wordsOf(error: unknown): { says: string; cure: string } {
  if (error instanceof Refused) return { says: error.problem.detail, cure: error.problem.cure };
  return { says: error instanceof Error ? error.message : 'Something went wrong.', cure: 'Try again.' };
}
