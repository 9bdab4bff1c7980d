import type { Problem } from '@auk/contract';
import { HttpException } from '@nestjs/common';

/** An error that a person can act on: what and why in `detail`, what to do in `cure`. */
export class Trouble extends HttpException {
  constructor(status: number, title: string, detail: string, cure: string, facts?: unknown) {
    const body: Problem = {
      type: 'about:blank',
      title,
      status,
      detail,
      cure,
      ...(facts === undefined ? {} : { facts }),
    };
    super(body, status);
  }
}

/** 400: the request itself makes no sense. */
export class Malformed extends Trouble {
  constructor(detail: string, cure: string) {
    super(400, 'Not understood', detail, cure);
  }
}

/** 404: the thing asked for is not here. */
export class NotHere extends Trouble {
  constructor(what: string, cure = 'Check the code, or find it with the scan field.') {
    super(404, 'Not here', `${what} is not in Auk.`, cure);
  }
}

/** 409: someone was faster. */
export class TooLate extends Trouble {
  constructor(detail: string, cure: string, facts?: unknown) {
    super(409, 'Someone was faster', detail, cure, facts);
  }
}

/** 422: the work forbids it. */
export class Forbidden extends Trouble {
  constructor(detail: string, cure: string, facts?: unknown) {
    super(422, 'Not now', detail, cure, facts);
  }
}
