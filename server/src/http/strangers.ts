import type { Person } from '@auk/contract';
import type { NextFunction, Request, Response } from 'express';
import { type SignedRequest, tokenOf } from './access.js';
import { toProblem } from './filter.js';
import { NotAllowed, NotSignedIn } from './problem.js';

/** Paths under /api/v1 that take a body from somebody who is not signed in. */
export const OPEN_PATHS = ['/people/sign-in', '/people/sign-out', '/house/open'];
/** And what buyers write on their pages: its link says who they are. */
const BUYERS_PATH = /^\/buyers\/[\w-]{1,60}\/messages$/;

/**
 * Refuses what comes from other sites, and bodies of people who are not signed in, before anything of them is read: the answer is
 * sent at once and the connection closed.
 */
export function refuseStrangers(byToken: (token: string | undefined) => Promise<Person | null>) {
  return async (request: SignedRequest, response: Response, next: NextFunction): Promise<void> => {
    if (request.method === 'GET' || request.method === 'HEAD') return next();
    try {
      if (!sameOrigin(request))
        throw new NotAllowed('The request comes from another site.', 'Open Auk itself and try there.');
      if (!OPEN_PATHS.includes(request.path) && !BUYERS_PATH.test(request.path)) {
        request.person = (await byToken(tokenOf(request))) ?? undefined;
        if (!request.person) throw new NotSignedIn();
      }
      next();
    } catch (error) {
      const problem = toProblem(error, request);
      response
        .status(problem.status)
        .setHeader('connection', 'close')
        .type('application/problem+json')
        .send(problem);
    }
  };
}

/** Behind a proxy that is trusted, protocol and host are those that the browser sees. */
function sameOrigin(request: Request): boolean {
  const { origin } = request.headers;
  return origin === undefined || origin === `${request.protocol}://${request.host}`;
}
