import {
  BuyLabel,
  DecideLabel,
  ElsewhereLabel,
  LabelPaper,
  LabelView,
  OffersView,
  type Person,
} from '@auk/contract';
import { Body, Controller, Get, HttpCode, Param, Post, Query, Res } from '@nestjs/common';
import type { Response } from 'express';
import { z } from 'zod';
import { by, May, Me } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { PrintingService } from '../printing/printing.module.js';
import { RatingService } from '../rating/rating.module.js';
import { ElsewhereLabels } from './elsewhere.service.js';
import { Labels } from './labels.service.js';
import { Voiding } from './voiding.service.js';

const ParcelNo = z
  .string()
  .regex(/^PA-\d{1,9}$/i, 'is not the code of a parcel')
  .transform(s => Number(s.slice(3)));

@Controller('parcels')
export class LabelsController {
  constructor(
    private readonly rating: RatingService,
    private readonly labels: Labels,
    private readonly voiding: Voiding,
    private readonly elsewheres: ElsewhereLabels,
    private readonly printing: PrintingService,
  ) {}

  @Get(':no/offers')
  @May('pack')
  @Answers(OffersView)
  offers(@Param('no') no: string): Promise<OffersView> {
    return this.rating.offers(parse(ParcelNo, no), new Date());
  }

  @Post(':no/label')
  @HttpCode(200)
  @May('pack')
  @Takes({ body: BuyLabel })
  @Answers(LabelView)
  buy(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<LabelView> {
    return this.labels.buy(parse(ParcelNo, no), parse(BuyLabel, body), {
      personId: me.id,
      at: new Date(),
    });
  }

  /** Takes the label back; what of its price comes back stands in the order's history. */
  @Post(':no/void')
  @HttpCode(200)
  @May('labels.void')
  @Answers('nothing')
  void(@Param('no') no: string, @Me() me: Person): Promise<void> {
    return this.voiding.void(parse(ParcelNo, no), by(me));
  }

  /** Types in a label that was bought somewhere else. */
  @Post(':no/elsewhere')
  @HttpCode(200)
  @May('pack')
  @Takes({ body: ElsewhereLabel })
  @Answers(LabelView)
  elsewhere(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<LabelView> {
    return this.elsewheres.type(parse(ParcelNo, no), parse(ElsewhereLabel, body), by(me));
  }

  /** Decides on a purchase that nobody can prove. */
  @Post(':no/decide')
  @HttpCode(200)
  @May('labels.decide')
  @Takes({ body: DecideLabel })
  @Answers(LabelView)
  decide(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<LabelView> {
    return this.labels.decide(parse(ParcelNo, no), parse(DecideLabel, body).what, by(me));
  }

  @Get(':no/label.pdf')
  @May('labels.print')
  @Answers('file')
  @Takes({ query: LabelPaper })
  async label(@Param('no') no: string, @Query() query: unknown, @Res() response: Response): Promise<void> {
    const { paper } = parse(LabelPaper, query);
    response.type('application/pdf').send(await this.printing.label(parse(ParcelNo, no), paper));
  }
}
