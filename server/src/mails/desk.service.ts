import type { AlertIn, BrandIn, MailSetup, MailTemplateIn } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, newId, type Sql } from '../database/db.js';
import { pictureType } from '../http/pictureType.js';
import { Malformed, NotHere } from '../http/problem.js';
import { AlertWish } from './alertWish.entity.js';
import { BrandLook } from './brandLook.entity.js';
import { PLAIN_COLOUR } from './letter.js';
import { Mail } from './mail.entity.js';
import { alertsByChannel, bouncedMails, brands, channelIdOf, templatesByChannel } from './mails.queries.js';
import { Mails } from './mails.service.js';
import { MailTemplate } from './mailTemplate.entity.js';
import { MailWays } from './ways.service.js';

/** What people set about mails: templates, how brands look, who of the house hears of what. */
@Injectable()
export class MailDesk {
  constructor(
    private readonly db: Db,
    private readonly ways: MailWays,
    private readonly mails: Mails,
  ) {}

  async setup(): Promise<MailSetup> {
    const templates = await templatesByChannel(this.db);
    const looks = await brands(this.db);
    const alerts = await alertsByChannel(this.db);
    return {
      way: await this.ways.way(this.db),
      templates: templates.map(t => ({ ...t, channel: t.channel ?? '', inUse: !!t.inUse })),
      brands: looks.map(b => ({
        ...b,
        colour: b.colour ?? PLAIN_COLOUR,
        sentFrom: b.sentFrom ?? '',
        hasLogo: !!b.hasLogo,
      })),
      alerts: alerts.map(a => ({ ...a, channel: a.channel ?? '' })),
      waiting: await this.db.of(Mail).countBy({ state: 'waiting' }),
      bounced: await bouncedMails(this.db),
    };
  }

  saveTemplate({ id, channel, ...columns }: MailTemplateIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const channelId = await this.channel(tx, channel);
      await tx.upsert(
        MailTemplate,
        [{ id: id ?? newId(), channelId, ...columns }],
        ['channelId', 'name', 'moment', 'inUse', 'subject', 'text'],
      );
      await tx.tell('mails', '');
    });
  }

  removeTemplate(id: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const { affected } = await tx.of(MailTemplate).delete({ id });
      if (!affected) throw new NotHere('That template');
      await tx.tell('mails', '');
    });
  }

  saveBrand(channel: string, look: BrandIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const channelId = (await this.channel(tx, channel))!;
      await tx.upsert(BrandLook, [{ channelId, ...look }], ['colour', 'sentFrom']);
      await tx.tell('mails', '');
    });
  }

  /** Keeps a brand's logo: a small PNG or JPEG. No bytes take it away. */
  saveLogo(channel: string, bytes: Buffer, doer: Doer): Promise<void> {
    const logoType = pictureType(bytes);
    if (bytes.length > 0 && !logoType)
      throw new Malformed('That file is no picture.', 'Choose a PNG or JPEG file of at most 300 KB.');
    return this.db.tx(doer, async tx => {
      const channelId = (await this.channel(tx, channel))!;
      const logo = bytes.length === 0 ? null : bytes;
      await tx.upsert(BrandLook, [{ channelId, colour: PLAIN_COLOUR, logo, logoType }], ['logo', 'logoType']);
      await tx.tell('mails', '');
    });
  }

  /** The logo of a channel's brand, for its mails and pages. */
  async logo(channelId: string): Promise<{ bytes: Buffer; type: string }> {
    const look = await this.db.of(BrandLook).findOneBy({ channelId });
    if (!look?.logo) throw new NotHere('A logo of this brand');
    return { bytes: look.logo, type: look.logoType! };
  }

  saveAlert({ channel, ...wish }: AlertIn, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      await tx.insert(AlertWish, [{ id: newId(), channelId: await this.channel(tx, channel), ...wish }]);
      await tx.tell('mails', '');
    });
  }

  removeAlert(id: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const { affected } = await tx.of(AlertWish).delete({ id });
      if (!affected) throw new NotHere('That wish');
      await tx.tell('mails', '');
    });
  }

  /** A mail that came back is sent once more, to where its order says now. */
  again(id: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      if (!(await this.mails.again(tx, id)))
        throw new NotHere('That mail', 'It is on its way again; look again.');
      await tx.tell('mails', '');
    });
  }

  private async channel(sql: Sql, code: string): Promise<string | null> {
    if (code === '') return null;
    const found = await channelIdOf(sql, code);
    if (!found) throw new NotHere(`The channel ${code}`, 'Choose one of the channels offered.');
    return found.id;
  }
}
