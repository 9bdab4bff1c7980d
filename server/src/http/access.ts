import type { Person, Right } from '@auk/contract';
import { createParamDecorator, type ExecutionContext, SetMetadata } from '@nestjs/common';
import type { Request, Response } from 'express';

/** Who may call an endpoint: whoever has a right, everyone who is signed in, or anyone at all. */
export type Access = { right: Right } | 'signed in' | 'anyone';

/** Under this name the access of an endpoint is kept; one without is refused to all. */
export const ACCESS = 'auk:access';

/** Only for people whose role has the right, by the table of rights in the contract and what the admin made of it. */
export const May = (right: Right) => SetMetadata(ACCESS, { right } satisfies Access);

/** For everyone who is signed in. */
export const SignedIn = () => SetMetadata(ACCESS, 'signed in' satisfies Access);

/** For anyone, also before sign-in. Such an endpoint reads small bodies only. */
export const Anyone = () => SetMetadata(ACCESS, 'anyone' satisfies Access);

export type SignedRequest = Request & { person?: Person };

/** The signed-in person, as a controller's argument. */
export const Me = createParamDecorator(
  (_: unknown, context: ExecutionContext) => context.switchToHttp().getRequest<SignedRequest>().person,
);

/** Name of the session cookie. */
export const COOKIE = 'auk';

/** The token that a request brings, if any. */
export const tokenOf = (request: Request): string | undefined =>
  (request.cookies as Record<string, string> | undefined)?.[COOKIE];

/** Puts a session's token into the browser: unreadable to scripts, to this site only, and over TLS only where TLS is. */
export function keepSignedIn(request: Request, response: Response, token: string): void {
  response.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', secure: request.secure, path: '/' });
}

/** Who does something now: the doer of a change. */
export const by = (person: Person): { personId: string; at: Date } => ({
  personId: person.id,
  at: new Date(),
});
