import type { MailWay, MailWayIn } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden } from '../http/problem.js';
import { seal, unseal } from '../reference/sealing.js';
import { letterOf } from './letter.js';
import type { MailToSend } from './mails.queries.js';

/** What is kept of the way; the password is sealed. */
type Kept = Omit<MailWayIn, 'password'> & { sealed: string | null };
const NONE_YET: Kept = { server: '', from: '', user: '', pages: '', sealed: null };
const SETTING = 'mails.way';

/** A server may take this long for each step of taking a mail. */
const LONGEST_MS = 15_000;

/** The mail server said no, and will say it again. */
export class MailRefused extends Error {}

/** The way that mails leave the house: a server that takes them by SMTP. */
@Injectable()
export class MailWays {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  async way(sql: Sql): Promise<MailWay> {
    const { sealed, ...way } = await this.kept(sql);
    return { ...way, hasPassword: sealed !== null };
  }

  /** Keeps the way; an empty password leaves the one that is there, an empty user takes it away. */
  set({ password, ...way }: MailWayIn, doer: Doer): Promise<void> {
    if (way.server !== '' && (way.from === '' || way.pages === ''))
      throw new Forbidden(
        'Mails that leave the house come from an address, and tell where buyers find their page.',
        'Type both, or leave the server empty so that no mail leaves.',
      );
    return this.db.tx(doer, async tx => {
      const before = await this.kept(tx);
      const sealed = way.user === '' ? null : password ? seal(password) : before.sealed;
      await this.house.set(tx, SETTING, { ...way, pages: way.pages.replace(/\/+$/, ''), sealed });
      await tx.tell('mails', '');
    });
  }

  private kept(sql: Sql): Promise<Kept> {
    return this.house.setting(sql, SETTING, NONE_YET);
  }

  /** Hands one mail over. Its id is its own for good: a server that was asked twice passes on what mailboxes show once. */
  async send(mail: MailToSend, { name }: { name: string }): Promise<void> {
    const { server, from, user, sealed } = await this.kept(this.db);
    if (server === '') throw new Error('No mail server is set. Set one under Setup > Mails.');
    const { createTransport } = await import('nodemailer');
    const transport = createTransport({
      url: server,
      ...(user !== '' && { auth: { user, pass: sealed ? unseal(sealed) : '' } }),
      connectionTimeout: LONGEST_MS,
      greetingTimeout: LONGEST_MS,
      socketTimeout: LONGEST_MS,
      disableFileAccess: true,
      disableUrlAccess: true,
    });
    try {
      await transport.sendMail(letterOf(mail, mail.sentFrom || from, name));
    } catch (error) {
      const { responseCode, response, message } = error as {
        responseCode?: number;
        response?: string;
        message: string;
      };
      if (responseCode && responseCode >= 500)
        throw new MailRefused(`The mail server refused it: ${response ?? message}`);
      throw new Error(`The mail server did not take it: ${message}`);
    } finally {
      transport.close();
    }
  }
}
