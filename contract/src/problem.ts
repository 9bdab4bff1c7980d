import { z } from 'zod';

/**
 * Kinds of problems, each with a stable type (`/problems/KIND`), its HTTP status, and whether sending the same again helps: `now` at
 * once or after a short wait, `later` when something outside has changed (a sign-in, a server that is back), `never` as it is.
 */
export const PROBLEMS = {
  malformed: { status: 400, title: 'Not understood', retry: 'never' },
  'not-signed-in': { status: 401, title: 'Not signed in', retry: 'later' },
  'not-allowed': { status: 403, title: 'Not allowed', retry: 'never' },
  'not-here': { status: 404, title: 'Not here', retry: 'never' },
  'too-late': { status: 409, title: 'Someone was faster', retry: 'never' },
  busy: { status: 409, title: 'Busy', retry: 'now' },
  'too-large': { status: 413, title: 'Too large', retry: 'never' },
  'wrong-kind': { status: 415, title: 'Wrong kind', retry: 'never' },
  forbidden: { status: 422, title: 'Not now', retry: 'never' },
  'too-often': { status: 429, title: 'Too often', retry: 'later' },
  away: { status: 503, title: 'Away for a moment', retry: 'later' },
  'our-fault': { status: 500, title: 'Our fault', retry: 'later' },
} as const satisfies Record<string, { status: number; title: string; retry: 'now' | 'later' | 'never' }>;

export type ProblemKind = keyof typeof PROBLEMS;

/** RFC 9457 problem details, with the cure beside and whether to try again. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  cure: z.string(),
  retry: z.enum(['now', 'later', 'never']),
  facts: z.unknown().optional(),
});
export type Problem = z.infer<typeof Problem>;
