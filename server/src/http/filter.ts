import type { Problem, ProblemKind } from '@auk/contract';
import { type ArgumentsHost, Catch, type ExceptionFilter, HttpException } from '@nestjs/common';
import type { Request, Response } from 'express';
import { errnoOf, isAway } from '../database/db.js';
import { log } from './log.js';
import { problemOf } from './problem.js';

/** Kinds of errors that the framework raises itself, by status. */
const BY_STATUS: Record<number, ProblemKind> = {
  401: 'not-signed-in',
  403: 'not-allowed',
  404: 'not-here',
  413: 'too-large',
  415: 'wrong-kind',
  429: 'too-often',
};

/** The one place that turns errors into HTTP; the unknown is logged whole and answered generically. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  catch(error: unknown, host: ArgumentsHost): void {
    const http = host.switchToHttp();
    const response = http.getResponse<Response>();
    if (response.headersSent) {
      response.end();
      return;
    }
    const problem = toProblem(error, http.getRequest<Request>());
    response.status(problem.status).type('application/problem+json').send(problem);
  }
}

/** The problem details of any error. */
export function toProblem(error: unknown, request: Request): Problem {
  if (error instanceof HttpException) {
    const body = error.getResponse();
    if (typeof body === 'object' && 'cure' in body) return body as Problem;
    return problemOf(BY_STATUS[error.getStatus()] ?? 'malformed', error.message, 'Check the request.');
  }
  // Body parsers of express fail with a status of their own.
  const status = (error as { status?: number } | null)?.status;
  if (status === 413)
    return problemOf('too-large', 'What was sent is larger than can be taken.', 'Cut it into smaller files.');
  if (status && status >= 400 && status < 500)
    return problemOf(
      BY_STATUS[status] ?? 'malformed',
      'The request could not be read.',
      'Check its form and its encoding.',
    );
  const errno = errnoOf(error);
  if (errno === 4025)
    return problemOf(
      'too-late',
      'The stock has changed meanwhile, so this would no longer be right.',
      'Look again; nothing was changed.',
    );
  if (errno === 1213 || errno === 1205)
    return problemOf(
      'busy',
      'Others work on the same things at this moment.',
      'Try again; nothing was changed.',
    );
  if (errno === 1062)
    return problemOf(
      'busy',
      'The same was made by another one at this moment.',
      'Try again; nothing was changed.',
    );
  if (isAway(error)) {
    log.warn({ err: error, url: request.url }, 'the database is away');
    return problemOf(
      'away',
      'The database does not answer at the moment.',
      'Wait; it is asked again. If it stays, tell who looks after Auk.',
    );
  }
  log.error({ err: error, url: request.url }, 'unexpected');
  return problemOf(
    'our-fault',
    'Something unexpected went wrong; nothing was changed.',
    'Try again; if it stays, tell who looks after Auk.',
  );
}
