import {
  BookDifferences,
  BookVersionView,
  BulkAnswer,
  DryRunAsk,
  DryRunView,
  Id,
  OrderWhyView,
  type Person,
  PressAsk,
  RerunAsk,
  RuleBookIn,
  RuleBookView,
  RuleButton,
  RuleButtonView,
  RuleProof,
  RuleWords,
  ruleBookSchema,
  SaveBook,
  SpendCapsIn,
  SpendingView,
} from '@auk/contract';
import type { RuleBook } from '@auk/core';
import { Body, Controller, Get, HttpCode, Param, Post, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me, SignedIn } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { drawCodes } from '../printing/printing.module.js';
import { RuleBooks } from './books.service.js';
import { RuleButtons } from './buttons.service.js';
import { DryRuns } from './dryRuns.service.js';
import { RuleMoments } from './moments.service.js';
import { RuleNames } from './names.service.js';
import { Spending } from './spending.service.js';
import { RuleWhy } from './why.service.js';

const VersionNo = z.coerce.number().int().min(0).max(1_000_000_000);
const Proofs = z.object({ book: RuleBookIn });
const GoBack = z.object({ base: z.number().int().min(0) });
const ButtonCode = RuleButton.shape.code;
const Saved = z.object({ no: z.number() });

@Controller('rules')
export class RulesController {
  constructor(
    private readonly books: RuleBooks,
    private readonly dryRuns: DryRuns,
    private readonly moments: RuleMoments,
    private readonly names: RuleNames,
    private readonly whys: RuleWhy,
    private readonly spending: Spending,
    private readonly ruleButtons: RuleButtons,
  ) {}

  @Get()
  @SignedIn()
  @Answers(RuleBookView)
  book(): Promise<RuleBookView> {
    return this.books.view(null);
  }

  @Post()
  @HttpCode(200)
  @May('rules.change')
  @Takes({ body: SaveBook })
  @Answers(Saved)
  save(@Body() body: unknown, @Me() me: Person): Promise<{ no: number }> {
    const { base, note, book } = parse(SaveBook, body);
    return this.books.save(base, book as RuleBook, note, by(me));
  }

  /** What can be proved of a book that is not saved yet. */
  @Post('proofs')
  @HttpCode(200)
  @May('rules.change')
  @Takes({ body: Proofs })
  @Answers(z.array(RuleProof))
  proofs(@Body() body: unknown): Promise<RuleProof[]> {
    return this.books.proofs(parse(Proofs, body).book as RuleBook);
  }

  @Get('words')
  @SignedIn()
  @Answers(RuleWords)
  words(): Promise<RuleWords> {
    return this.names.words();
  }

  @Get('versions')
  @SignedIn()
  @Answers(z.array(BookVersionView))
  versions(): Promise<BookVersionView[]> {
    return this.books.versions();
  }

  @Get('versions/:no')
  @SignedIn()
  @Answers(RuleBookView)
  version(@Param('no') no: string): Promise<RuleBookView> {
    return this.books.view(parse(VersionNo, no));
  }

  /** A version as a file that another house, or this one, can take in. */
  @Get('versions/:no/file')
  @SignedIn()
  @Answers('file')
  async file(@Param('no') no: string, @Res() response: Response): Promise<void> {
    const version = parse(VersionNo, no);
    response
      .type('application/json')
      .setHeader('content-disposition', `attachment; filename="rule book ${version}.json"`)
      .send(JSON.stringify(await this.books.file(version), null, 2));
  }

  /** The form of such a file, as a JSON schema. */
  @Get('schema')
  @SignedIn()
  @Answers('file')
  schema(@Res() response: Response): void {
    response.type('application/schema+json').send(JSON.stringify(ruleBookSchema(), null, 2));
  }

  @Get('versions/:no/against/:other')
  @SignedIn()
  @Answers(BookDifferences)
  differences(@Param('no') no: string, @Param('other') other: string): Promise<BookDifferences> {
    return this.books.differences(parse(VersionNo, no), parse(VersionNo, other));
  }

  @Post('versions/:no/again')
  @HttpCode(200)
  @May('rules.change')
  @Takes({ body: GoBack })
  @Answers(Saved)
  goBack(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<{ no: number }> {
    return this.books.goBack(parse(VersionNo, no), parse(GoBack, body).base, by(me));
  }

  @Post('dry-runs')
  @HttpCode(200)
  @May('rules.change')
  @Takes({ body: DryRunAsk })
  @Answers(DryRunView)
  dryRun(@Body() body: unknown, @Me() me: Person): Promise<DryRunView> {
    return this.dryRuns.ask(parse(DryRunAsk, body), by(me));
  }

  @Get('dry-runs/:id')
  @May('rules.change')
  @Answers(DryRunView)
  dryRunView(@Param('id') id: string): Promise<DryRunView> {
    return this.dryRuns.view(parse(Id, id));
  }

  @Post('dry-runs/:id/stop')
  @HttpCode(200)
  @May('rules.change')
  @Answers(DryRunView)
  stop(@Param('id') id: string): Promise<DryRunView> {
    return this.dryRuns.stop(parse(Id, id));
  }

  @Get('orders/:id/why')
  @SignedIn()
  @Answers(OrderWhyView)
  why(@Param('id') id: string): Promise<OrderWhyView> {
    return this.whys.of(parse(Id, id), new Date());
  }

  /** What is bought without a person: caps, the pause, and what was done today. */
  @Get('spending')
  @SignedIn()
  @Answers(SpendingView)
  spent(): Promise<SpendingView> {
    return this.spending.view(new Date());
  }

  @Post('spending/caps')
  @HttpCode(200)
  @May('rules.spend')
  @Takes({ body: SpendCapsIn })
  @Answers('nothing')
  caps(@Body() body: unknown, @Me() me: Person): Promise<void> {
    return this.spending.setCaps(parse(SpendCapsIn, body), by(me));
  }

  /** Whoever sees that something goes wrong may stop it; to let it go on is a right. */
  @Post('spending/pause')
  @HttpCode(200)
  @SignedIn()
  @Answers('nothing')
  pause(@Me() me: Person): Promise<void> {
    return this.spending.setPause(true, by(me));
  }

  @Post('spending/resume')
  @HttpCode(200)
  @May('rules.spend')
  @Answers('nothing')
  resume(@Me() me: Person): Promise<void> {
    return this.spending.setPause(false, by(me));
  }

  @Get('buttons')
  @SignedIn()
  @Answers(z.array(RuleButtonView))
  buttons(@Me() me: Person): Promise<RuleButtonView[]> {
    return this.ruleButtons.list(me);
  }

  /** The codes of all buttons on paper. */
  @Get('buttons.pdf')
  @SignedIn()
  @Answers('file')
  async buttonCodes(@Me() me: Person, @Res() response: Response): Promise<void> {
    const codes = (await this.ruleButtons.list(me)).map(b => ({ code: b.code, name: b.words, does: b.says }));
    response.type('application/pdf').send(await drawCodes('Buttons of the rule book', codes));
  }

  @Post('buttons/:code/press')
  @HttpCode(200)
  @May('rules.press')
  @Takes({ body: PressAsk })
  @Answers(z.array(BulkAnswer))
  press(@Param('code') code: string, @Body() body: unknown, @Me() me: Person): Promise<BulkAnswer[]> {
    return this.ruleButtons.press(parse(ButtonCode, code), parse(PressAsk, body).orders, me, by(me));
  }

  /** Runs the book of now again on orders. */
  @Post('again')
  @HttpCode(200)
  @May('rules.run')
  @Takes({ body: RerunAsk })
  @Answers(z.array(BulkAnswer))
  again(@Body() body: unknown, @Me() me: Person): Promise<BulkAnswer[]> {
    return this.moments.again(parse(RerunAsk, body).ids, by(me));
  }
}
