import { type Person, SignIn } from '@auk/contract';
import { Body, Controller, Get, HttpCode, Post, Req, Res } from '@nestjs/common';
import type { Response } from 'express';
import { ALL_ROLES, COOKIE, Me, Roles, type SignedRequest } from '../http/access.js';
import { parse } from '../http/parse.js';
import { PeopleService } from './people.service.js';

@Controller('people')
export class PeopleController {
  constructor(private readonly people: PeopleService) {}

  @Post('sign-in')
  @HttpCode(200)
  @Roles('anyone')
  async signIn(@Body() body: unknown, @Res({ passthrough: true }) response: Response): Promise<Person> {
    const { token, person } = await this.people.signIn(parse(SignIn, body), new Date());
    response.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/' });
    return person;
  }

  @Post('sign-out')
  @HttpCode(200)
  @Roles('anyone')
  async signOut(
    @Req() request: SignedRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<object> {
    await this.people.signOut((request.cookies as Record<string, string>)[COOKIE]);
    response.clearCookie(COOKIE, { path: '/' });
    return {};
  }

  @Get('me')
  @Roles(...ALL_ROLES)
  me(@Me() person: Person): Person {
    return person;
  }
}
