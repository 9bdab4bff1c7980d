import type { Problem } from '@auk/contract';
import { type ArgumentsHost, Catch, type ExceptionFilter, HttpException } from '@nestjs/common';
import type { Request, Response } from 'express';
import { errnoOf } from '../database/db.js';
import { log } from './log.js';

const TITLES: Record<number, string> = {
  400: 'Not understood',
  401: 'Not signed in',
  403: 'Not allowed',
  404: 'Not here',
  413: 'Too large',
  415: 'Wrong kind',
  429: 'Too often',
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

function toProblem(error: unknown, request: Request): Problem {
  if (error instanceof HttpException) {
    const body = error.getResponse();
    if (typeof body === 'object' && 'cure' in body) return body as Problem;
    const status = error.getStatus();
    return plain(status, TITLES[status] ?? 'Refused', error.message, 'Check the request.');
  }
  // Body parsers of express fail with a status of their own.
  const status = (error as { status?: number } | null)?.status;
  if (status === 413)
    return plain(413, TITLES[413]!, 'The file is larger than 20 MB.', 'Cut it into smaller files.');
  if (status && status >= 400 && status < 500)
    return plain(
      status,
      TITLES[status] ?? 'Not understood',
      'The request could not be read.',
      'Check its form and its encoding.',
    );
  const errno = errnoOf(error);
  if (errno === 4025)
    return plain(
      409,
      'Someone was faster',
      'The stock has changed meanwhile, so this would no longer be right.',
      'Look again; nothing was changed.',
    );
  if (errno === 1213 || errno === 1205)
    return plain(
      409,
      'Someone was faster',
      'Others work on the same things at this moment.',
      'Try again; nothing was changed.',
    );
  log.error({ err: error, url: request.url }, 'unexpected');
  return plain(
    500,
    'Our fault',
    'Something unexpected went wrong; nothing was changed.',
    'Try again; if it stays, tell who looks after Auk.',
  );
}

function plain(status: number, title: string, detail: string, cure: string): Problem {
  return { type: 'about:blank', title, status, detail, cure };
}
