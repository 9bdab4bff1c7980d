import { createHash, randomInt, timingSafeEqual } from 'node:crypto';
import type { ExchangeRateView, HouseState, OpenHouse } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { ChannelsService } from '../channels/channels.module.js';
import { Db, type Doer, newId } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, TooLate } from '../http/problem.js';
import { hashPin, PeopleDesk, PeopleService } from '../people/people.module.js';
import { Places } from '../stock/stock.module.js';

/** Letters and digits that nobody confuses. */
const LETTERS = '23456789ABCDEFGHJKLMNPQRSTUVWXYZ';
const CODE_LENGTH = 8;
/** Guesses at the code are throttled like guesses at a PIN, under this name. */
const GUESSES = '*opening';

const digest = (code: string): string => createHash('sha256').update(code.toUpperCase()).digest('hex');

/** Opens a house of one's own: once, by the code that the start command printed. */
@Injectable()
export class Opening {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly people: PeopleService,
    private readonly desk: PeopleDesk,
    private readonly places: Places,
    private readonly channels: ChannelsService,
  ) {}

  async state(): Promise<HouseState> {
    const known = await this.house.known(this.db);
    const origin = await this.house.setting<HouseState['origin']>(this.db, 'origin', null);
    return {
      open: known !== null,
      origin,
      name: known?.name ?? '',
      zone: known?.zone ?? 'UTC',
      currency: known?.currency ?? '',
    };
  }

  rates(): Promise<ExchangeRateView[]> {
    return this.house.ratesEntered(this.db);
  }

  async enterRate(rate: ExchangeRateView, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      await this.house.enterRate(tx, rate);
      await tx.tell('carriers', 'rates');
    });
  }

  /** A new code for the first page; any earlier one counts no more. */
  async newCode(): Promise<string> {
    const code = Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('');
    await this.house.set(this.db, 'openingCode', digest(code));
    return code;
  }

  /** Makes the house: its warehouse, special places and own channels, and its first admin, who is signed in. Gives the token and the badge. */
  async open(input: OpenHouse, at: Date): Promise<{ token: string; badge: string }> {
    await this.people.mayTry(GUESSES);
    const pinHash = await hashPin(input.admin.pin);
    return this.db.tx({ personId: null, at }, async tx => {
      const kept = await this.house.lockedSetting<string>(tx, 'openingCode', '');
      if (await this.house.known(tx))
        throw new TooLate('This house is open already.', 'Sign in with your badge.');
      if (kept === '' || !timingSafeEqual(Buffer.from(kept), Buffer.from(digest(input.code))))
        throw new Forbidden(
          'That is not the code of this house.',
          'Look at the lines that the start command printed; the newest code counts.',
        );
      const sender = {
        name: input.house.name,
        company: '',
        line1: input.house.line1,
        line2: '',
        city: input.house.city,
        region: input.house.region,
        postcode: input.house.postcode,
        country: input.house.country,
        phone: input.house.phone,
      };
      const warehouseId = await this.house.make(tx, { ...input.house, sender });
      await this.places.makeSpecial(tx, warehouseId);
      await this.channels.makeOwn(tx, { brand: input.house.name, currency: input.house.currency, sender });
      const id = newId();
      const badge = await this.desk.put(tx, { name: input.admin.name, role: 'admin' }, pinHash, id);
      await this.house.set(tx, 'origin', 'own');
      await this.house.set(tx, 'openingCode', '');
      await this.people.forgetTries(tx, GUESSES);
      return { token: await this.people.begin(tx, id, at), badge };
    });
  }
}
