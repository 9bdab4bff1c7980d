import {
  BuildIn,
  BuildJudged,
  BuildPortion,
  BuildRow,
  BuildView,
  FinishIn,
  Id,
  type Judged,
  KitPolicyIn,
  KitRow,
  KitView,
  MadeNo,
  MissingAnswer,
  MissingQuery,
  MovedOrders,
  NewVersionIn,
  type Person,
  PromiseAnswer,
  PromiseIn,
  ProposedBuildRow,
  RecipeIn,
  ScanIn,
  UnbuildIn,
} from '@auk/contract';
import type { BuildState } from '@auk/core';
import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { BuildsQueries } from './builds.queries.js';
import { Builds } from './builds.service.js';
import { KitsQueries } from './kits.queries.js';
import { Recipes } from './recipes.service.js';

@Controller()
export class KitsController {
  constructor(
    private readonly queries: KitsQueries,
    private readonly recipes: Recipes,
    private readonly builds: Builds,
    private readonly buildsQueries: BuildsQueries,
  ) {}

  @Get('kits')
  @SignedIn()
  @Answers(z.array(KitRow))
  list(): Promise<KitRow[]> {
    return this.queries.list();
  }

  /** A question, though by POST: the wishes are a body. */
  @Post('kits/promise')
  @HttpCode(200)
  @SignedIn()
  @Takes({ body: PromiseIn })
  @Answers(PromiseAnswer)
  promise(@Body() body: unknown): Promise<PromiseAnswer> {
    return this.queries.promise(parse(PromiseIn, body));
  }

  @Get('kits/:sku')
  @SignedIn()
  @Answers(KitView)
  one(@Param('sku') sku: string): Promise<KitView> {
    return this.queries.one(sku);
  }

  @Get('kits/:sku/missing')
  @SignedIn()
  @Takes({ query: MissingQuery })
  @Answers(MissingAnswer)
  missing(@Param('sku') sku: string, @Query() query: unknown): Promise<MissingAnswer> {
    return this.queries.missing(sku, parse(MissingQuery, query).quantity);
  }

  @Post('kits/:sku/recipe')
  @HttpCode(200)
  @May('recipes.change')
  @Takes({ body: RecipeIn })
  @Answers('nothing')
  recipe(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.recipes.save(sku, parse(RecipeIn, body), by(me));
  }

  @Post('kits/:sku/policy')
  @HttpCode(200)
  @May('kits.policy')
  @Takes({ body: KitPolicyIn })
  @Answers('nothing')
  policy(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.recipes.setPolicy(sku, parse(KitPolicyIn, body).kitPolicy, by(me));
  }

  @Post('kits/:sku/orders')
  @HttpCode(200)
  @May('recipes.change')
  @Takes({ body: NewVersionIn })
  @Answers(MovedOrders)
  moveOrders(@Param('sku') sku: string, @Body() body: unknown, @Me() me: Person): Promise<{ moved: number }> {
    return this.recipes.moveOrders(sku, parse(NewVersionIn, body).orderIds, by(me));
  }

  @Get('builds')
  @SignedIn()
  @Answers(z.array(BuildRow))
  buildList(): Promise<BuildRow[]> {
    return this.buildsQueries.list();
  }

  @Get('builds/proposed')
  @SignedIn()
  @Answers(z.array(ProposedBuildRow))
  proposed(): Promise<ProposedBuildRow[]> {
    return this.queries.proposed();
  }

  @Post('builds')
  @HttpCode(200)
  @May('builds.plan')
  @Takes({ body: BuildIn })
  @Answers(MadeNo)
  async plan(@Body() body: unknown, @Me() me: Person): Promise<{ no: string }> {
    return { no: await this.builds.create(parse(BuildIn, body), by(me)) };
  }

  @Post('builds/unbuild')
  @HttpCode(200)
  @May('builds.work')
  @Takes({ body: UnbuildIn })
  @Answers(MadeNo)
  async unbuild(@Body() body: unknown, @Me() me: Person): Promise<{ no: string }> {
    return { no: await this.builds.unbuild(parse(UnbuildIn, body), by(me)) };
  }

  @Get('builds/:no')
  @SignedIn()
  @Answers(BuildView)
  build(@Param('no') no: string): Promise<BuildView> {
    return this.buildsQueries.one(no);
  }

  /** A portion as its scans left it; one that no scan has opened yet is empty. */
  @Get('builds/:no/sessions/:id')
  @SignedIn()
  @Answers(BuildPortion)
  async portion(@Param('no') no: string, @Param('id') id: string): Promise<{ state: BuildState }> {
    return { state: await this.builds.portion(no, parse(Id, id)) };
  }

  @Post('builds/:no/sessions/:id/scans')
  @HttpCode(200)
  @May('builds.work')
  @Takes({ body: ScanIn })
  @Answers(BuildJudged)
  scanBuild(
    @Param('no') no: string,
    @Param('id') id: string,
    @Body() body: unknown,
    @Me() me: Person,
  ): Promise<Judged<BuildState>> {
    return this.builds.scan(no, parse(Id, id), parse(ScanIn, body), by(me));
  }

  @Post('builds/:no/finish')
  @HttpCode(200)
  @May('builds.work')
  @Takes({ body: FinishIn })
  @Answers('nothing')
  finish(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.builds.finish(no, parse(FinishIn, body), by(me));
  }

  @Post('builds/:no/stop')
  @HttpCode(200)
  @May('builds.plan')
  @Answers('nothing')
  stop(@Param('no') no: string, @Me() me: Person): Promise<void> {
    return this.builds.stop(no, by(me));
  }
}
