import type { Person, Role } from '@auk/contract';
import {
  type CanActivate,
  createParamDecorator,
  type ExecutionContext,
  Injectable,
  SetMetadata,
} from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Request } from 'express';
import { PeopleService } from '../people/people.service.js';
import { Trouble } from './problem.js';

const ROLES = 'auk:roles';

/** Says who may call an endpoint: roles, or 'anyone' before sign-in. Admin may do what lead may. */
export const Roles = (...roles: (Role | 'anyone')[]) => SetMetadata(ROLES, roles);

/** Everyone who is signed in. */
export const ALL_ROLES: Role[] = ['lead', 'picker', 'packer', 'office', 'admin'];

export type SignedRequest = Request & { person?: Person };

/** The signed-in person, as a controller's argument. */
export const Me = createParamDecorator(
  (_: unknown, context: ExecutionContext) => context.switchToHttp().getRequest<SignedRequest>().person,
);

/** Name of the session cookie. */
export const COOKIE = 'auk';

/** Refuses foreign origins, the unsigned and the wrong role; an endpoint without roles is refused to all. */
@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly people: PeopleService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<SignedRequest>();
    if (!sameOrigin(request))
      throw new Trouble(
        403,
        'Not allowed',
        'The request comes from another site.',
        'Open Auk itself and try there.',
      );
    const roles =
      this.reflector.getAllAndOverride<(Role | 'anyone')[] | undefined>(ROLES, [
        context.getHandler(),
        context.getClass(),
      ]) ?? [];
    if (roles.includes('anyone')) return true;
    const person = await this.people.byToken((request.cookies as Record<string, string>)[COOKIE]);
    if (!person) throw new Trouble(401, 'Not signed in', 'Nobody is signed in here.', 'Scan your badge.');
    request.person = person;
    if (roles.includes(person.role) || (person.role === 'admin' && roles.includes('lead'))) return true;
    throw new Trouble(
      403,
      'Not allowed',
      `A ${person.role} may not do this.`,
      `Ask a ${roles.join(' or ')}.`,
    );
  }
}

function sameOrigin(request: Request): boolean {
  if (request.method === 'GET' || request.method === 'HEAD') return true;
  const origin = request.headers.origin;
  return origin === undefined || origin === `${request.protocol}://${request.headers.host}`;
}

/** Who does something now: the doer of a change. */
export const by = (person: Person): { personId: string; at: Date } => ({
  personId: person.id,
  at: new Date(),
});
