import { PROBLEMS, Problem, type ProblemKind } from '@auk/contract';
import { BadRequestException, NotFoundException } from '@nestjs/common';
import type { Request } from 'express';
import { QueryFailedError } from 'typeorm';
import { expect, test, vi } from 'vitest';
import { isAway, Stale } from '../src/database/db.js';
import { toProblem } from '../src/http/filter.js';
import { log } from '../src/http/log.js';
import { Busy, Forbidden, NotHere, TooOften } from '../src/http/problem.js';

const request = { url: '/api/v1/x' } as Request;
const kindOf = (error: unknown): ProblemKind => {
  const problem = toProblem(error, request);
  expect(Problem.parse(problem)).toEqual(problem);
  const kind = problem.type.replace('/problems/', '') as ProblemKind;
  expect(problem).toMatchObject(PROBLEMS[kind]);
  expect(problem.detail).toMatch(/^[A-Z“"].*\.$/);
  expect(problem.cure).toMatch(/\.$/);
  return kind;
};
/** An error as the database's driver gives it, within the one of the library over it. */
const failed = (errno: number, more: object = {}) =>
  new QueryFailedError('UPDATE x', [], Object.assign(new Error('no'), { errno, ...more }));

test('what the house refuses keeps its own words', () => {
  const refusal = toProblem(new Forbidden('The list is closed.', 'Take another.'), request);
  expect(refusal).toMatchObject({
    status: 422,
    detail: 'The list is closed.',
    cure: 'Take another.',
    retry: 'never',
  });
  expect(kindOf(new NotHere('That order'))).toBe('not-here');
  expect(kindOf(new Busy('It is being bought.', 'Try again.'))).toBe('busy');
  expect(kindOf(new TooOften('Many came.', 'Wait.', 60))).toBe('too-often');
});

test('what the framework and the reader of bodies refuse has a kind, and is nobody’s fault here', () => {
  expect(kindOf(new NotFoundException('Cannot GET /x.'))).toBe('not-here');
  expect(kindOf(new BadRequestException('It is no JSON.'))).toBe('malformed');
  expect(kindOf(Object.assign(new Error('too large'), { status: 413 }))).toBe('too-large');
  expect(kindOf(Object.assign(new Error('charset'), { status: 415 }))).toBe('wrong-kind');
  expect(kindOf(Object.assign(new Error('bad'), { status: 400 }))).toBe('malformed');
});

test('two at once are told to try again, and stock that has changed is told as it is', () => {
  for (const errno of [1213, 1205, 1062]) expect(kindOf(failed(errno)), String(errno)).toBe('busy');
  expect(kindOf(failed(4025))).toBe('too-late');
});

test('a database that is away is no fault of what was asked, in whatever way it went', () => {
  const lost = { code: 'PROTOCOL_CONNECTION_LOST', fatal: true };
  for (const error of [
    failed(1053),
    failed(1927),
    failed(0, lost),
    Object.assign(new Error('connect ECONNREFUSED'), { code: 'ECONNREFUSED', fatal: true }),
    Object.assign(new Error("Can't add new command when connection is in closed state"), { fatal: true }),
  ]) {
    expect(isAway(error)).toBe(true);
    expect(kindOf(error)).toBe('away');
  }
  // A carrier that cannot be reached is not our database.
  for (const error of [
    new Stale(),
    failed(1213),
    Object.assign(new Error('x'), { code: 'ECONNREFUSED' }),
    null,
    'x',
  ])
    expect(isAway(error)).toBe(false);
});

test('anything else is our fault: logged whole, told without a word of what it was', () => {
  const logged = vi.spyOn(log, 'error').mockImplementation(() => undefined);
  for (const error of [new Error('password=secret'), failed(1146), null, undefined, 'odd', { status: 500 }]) {
    expect(kindOf(error)).toBe('our-fault');
    expect(JSON.stringify(toProblem(error, request))).not.toContain('secret');
  }
  expect(logged).toHaveBeenCalled();
  logged.mockRestore();
});
