import {
  Id,
  MadeBadge,
  NewPin,
  Person,
  PersonEdit,
  PersonIn,
  PersonRow,
  RightIn,
  RightsTable,
  SignIn,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Req, Res } from '@nestjs/common';
import type { Request, Response } from 'express';
import { z } from 'zod';
import { Anyone, by, COOKIE, keepSignedIn, May, Me, SignedIn, tokenOf } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { PeopleService } from './people.service.js';
import { PeopleDesk } from './peopleDesk.service.js';

@Controller('people')
export class PeopleController {
  constructor(
    private readonly people: PeopleService,
    private readonly desk: PeopleDesk,
  ) {}

  @Post('sign-in')
  @HttpCode(200)
  @Anyone()
  @Takes({ body: SignIn })
  @Answers(Person)
  async signIn(
    @Body() body: unknown,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<Person> {
    const { token, person } = await this.people.signIn(parse(SignIn, body), new Date());
    keepSignedIn(request, response, token);
    return person;
  }

  @Post('sign-out')
  @HttpCode(200)
  @Anyone()
  @Answers(z.object({}))
  async signOut(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<object> {
    await this.people.signOut(tokenOf(request));
    response.clearCookie(COOKIE, { path: '/' });
    return {};
  }

  @Get('me')
  @SignedIn()
  @Answers(Person)
  me(@Me() person: Person): Person {
    return person;
  }

  @Get()
  @May('people.change')
  @Answers(z.array(PersonRow))
  list(): Promise<PersonRow[]> {
    return this.desk.list();
  }

  @Post()
  @HttpCode(200)
  @May('people.change')
  @Takes({ body: PersonIn })
  @Answers(MadeBadge)
  add(@Body() body: unknown, @Me() me: Person): Promise<{ badge: string }> {
    return this.desk.add(parse(PersonIn, body), by(me));
  }

  @Get('rights')
  @May('people.change')
  @Answers(RightsTable)
  rights(): Promise<RightsTable> {
    return this.desk.rights();
  }

  @Post('rights')
  @HttpCode(200)
  @May('people.change')
  @Takes({ body: RightIn })
  @Answers(RightsTable)
  setRight(@Body() body: unknown, @Me() me: Person): Promise<RightsTable> {
    return this.desk.setRight(parse(RightIn, body), by(me));
  }

  @Post(':id')
  @HttpCode(200)
  @May('people.change')
  @Takes({ body: PersonEdit })
  @Answers(z.object({}))
  async edit(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<object> {
    await this.desk.edit(parse(Id, id), parse(PersonEdit, body), by(me));
    return {};
  }

  @Post(':id/pin')
  @HttpCode(200)
  @May('people.change')
  @Takes({ body: NewPin })
  @Answers(z.object({}))
  async newPin(@Param('id') id: string, @Body() body: unknown, @Me() me: Person): Promise<object> {
    await this.desk.newPin(parse(Id, id), parse(NewPin, body).pin, by(me));
    return {};
  }
}
