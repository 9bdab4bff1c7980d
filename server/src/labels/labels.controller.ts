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
import { by, May, Me } from '../http/access.js';
import { Answers, Takes } from '../http/api.js';
import { parse } from '../http/parse.js';
import { ParcelNo } from '../parcels/parcels.module.js';
import { PrintingService } from '../printing/printing.module.js';
import { RatingService } from '../rating/rating.module.js';
import { ElsewhereLabels } from './elsewhere.service.js';
import { Labels } from './labels.service.js';
import { Voiding } from './voiding.service.js';

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

  @Get(':no/return-offers')
  @May('labels.choose')
  @Answers(OffersView)
  returnOffers(@Param('no') no: string): Promise<OffersView> {
    return this.rating.returnOffers(parse(ParcelNo, no), new Date());
  }

  /** Buys a label for the way back, to lie in the parcel or to be sent ahead. */
  @Post(':no/return-label')
  @HttpCode(200)
  @May('labels.choose')
  @Takes({ body: BuyLabel })
  @Answers(LabelView)
  buyReturn(@Param('no') no: string, @Body() body: unknown, @Me() me: Person): Promise<LabelView> {
    return this.labels.buyReturn(parse(ParcelNo, no), parse(BuyLabel, body), by(me));
  }

  @Get(':no/return.pdf')
  @May('labels.print')
  @Answers('file')
  async returnLabel(@Param('no') no: string, @Res() response: Response): Promise<void> {
    response.type('application/pdf').send(await this.printing.returnLabel(parse(ParcelNo, no)));
  }

  /** Gives the label for the way back back to its carrier. */
  @Post(':no/return-void')
  @HttpCode(200)
  @May('labels.void')
  @Answers('nothing')
  voidReturn(@Param('no') no: string, @Me() me: Person): Promise<void> {
    return this.voiding.voidReturn(parse(ParcelNo, no), by(me));
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
