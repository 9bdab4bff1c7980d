import type { Problem, ProblemKind } from '@auk/contract';
import { PROBLEMS } from '@auk/contract';
import { HttpException } from '@nestjs/common';

/** Problem details of a kind: its type, status, title and whether trying again helps are said once, in the contract. */
export function problemOf(kind: ProblemKind, detail: string, cure: string, facts?: unknown): Problem {
  const { status, title, retry } = PROBLEMS[kind];
  return {
    type: `/problems/${kind}`,
    title,
    status,
    detail,
    cure,
    retry,
    ...(facts === undefined ? {} : { facts }),
  };
}

/** An error that a person can act on: what and why in `detail`, what to do in `cure`. */
export class Trouble extends HttpException {
  constructor(kind: ProblemKind, detail: string, cure: string, facts?: unknown) {
    super(problemOf(kind, detail, cure, facts), PROBLEMS[kind].status);
  }

  get problem(): Problem {
    return this.getResponse() as Problem;
  }
}

/** 400: the request itself makes no sense. */
export class Malformed extends Trouble {
  constructor(detail: string, cure: string) {
    super('malformed', detail, cure);
  }
}

/** 401: nobody is signed in. */
export class NotSignedIn extends Trouble {
  constructor(detail = 'Nobody is signed in here.', cure = 'Scan your badge.') {
    super('not-signed-in', detail, cure);
  }
}

/** 403: this person, or this site, may not. */
export class NotAllowed extends Trouble {
  constructor(detail: string, cure: string) {
    super('not-allowed', detail, cure);
  }
}

/** 404: the thing asked for is not here. */
export class NotHere extends Trouble {
  constructor(what: string, cure = 'Check the code, or find it with the scan field.') {
    super('not-here', `${what} is not in Auk.`, cure);
  }
}

/** 409: someone was faster. */
export class TooLate extends Trouble {
  constructor(detail: string, cure: string, facts?: unknown) {
    super('too-late', detail, cure, facts);
  }
}

/** 422: the work forbids it. */
export class Forbidden extends Trouble {
  constructor(detail: string, cure: string, facts?: unknown) {
    super('forbidden', detail, cure, facts);
  }
}

/** 429: too often; `waitSeconds` says how long to wait. */
export class TooOften extends Trouble {
  constructor(detail: string, cure: string, waitSeconds: number) {
    super('too-often', detail, cure, { waitSeconds });
  }
}

/** 409: something is in the way that goes by itself; the same again helps. */
export class Busy extends Trouble {
  constructor(detail: string, cure: string) {
    super('busy', detail, cure);
  }
}
