import { RIGHTS } from '@auk/contract';
import { type CanActivate, type ExecutionContext, Injectable } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { ACCESS, type Access, type SignedRequest, tokenOf } from '../http/access.js';
import { NotAllowed, NotSignedIn } from '../http/problem.js';
import { PeopleService } from './people.service.js';

/** Refuses the unsigned and those without the right; an endpoint that does not say who may call it is refused to all. */
@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly people: PeopleService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const access = this.reflector.getAllAndOverride<Access | undefined>(ACCESS, [
      context.getHandler(),
      context.getClass(),
    ]);
    if (access === 'anyone') return true;
    const request = context.switchToHttp().getRequest<SignedRequest>();
    request.person ??= (await this.people.byToken(tokenOf(request))) ?? undefined;
    const { person } = request;
    if (!person) throw new NotSignedIn();
    if (access === 'signed in') return true;
    if (access && person.rights.includes(access.right)) return true;
    const words = access ? RIGHTS[access.right].words : 'do this';
    throw new NotAllowed(
      `The role ${person.role} has not the right “${words}”.`,
      'Ask an admin, who gives rights under Setup > People.',
    );
  }
}
