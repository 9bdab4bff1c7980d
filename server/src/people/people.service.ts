import { createHash, randomBytes } from 'node:crypto';
import { type ChangedRights, type Person, rightsOf, type SignIn } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { hash, verify } from '@node-rs/argon2';
import { Db, fromJson, type Sql } from '../database/db.js';
import { NotSignedIn, TooOften } from '../http/problem.js';
import { Rounds } from '../leases/leases.module.js';
import {
  addTry,
  beginTries,
  changedRights,
  forgetSignedIn,
  forgetTries,
  lockTries,
  signedInPerson,
} from './people.queries.js';
import { Person as PersonEntity } from './person.entity.js';
import { SignedIn } from './signedIn.entity.js';
import { SignInTry } from './signInTry.entity.js';
import { waitAfter } from './throttle.js';

const SESSION_HOURS = 12;
const TIDY_MS = 3_600_000;

const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Hashes a PIN slowly, with its own salt (argon2id). */
export const hashPin = (pin: string): Promise<string> =>
  hash(pin, { memoryCost: 8192, timeCost: 2, parallelism: 1 });

/** Sign-in by badge and PIN; sessions and guesses live in the database so that all servers know them. */
@Injectable()
export class PeopleService {
  /** A hash of nothing that anybody knows: an unknown badge takes as long as a known one. */
  private readonly nobody = hashPin(randomBytes(12).toString('hex'));

  constructor(
    private readonly db: Db,
    rounds: Rounds,
  ) {
    rounds.register({
      name: 'old sign-ins',
      everyMs: TIDY_MS,
      leaseMs: TIDY_MS,
      lanes: async () => [''],
      work: () => this.tidy(),
    });
  }

  /** Checks badge and PIN; gives a token for the cookie. Each try is counted before it is looked at, so that guessing in parallel is no faster. */
  async signIn(input: SignIn, now: Date): Promise<{ token: string; person: Person }> {
    const badge = input.badge.toUpperCase();
    await this.mayTry(badge);
    const row = await this.db.of(PersonEntity).findOne({
      where: { badge, active: true },
      select: { id: true, badge: true, name: true, role: true, pinHash: true },
    });
    const right = await verify(row?.pinHash ?? (await this.nobody), input.pin);
    if (!row || !right)
      throw new NotSignedIn(
        'Badge and PIN do not belong together.',
        'Scan the badge again and type the PIN slowly.',
      );
    await this.forgetTries(this.db, badge);
    const { id, name, role } = row;
    const person: Person = { id, name, badge, role, rights: rightsOf(role, await this.changedRights()) };
    return { token: await this.begin(this.db, id, now), person };
  }

  /** Begins a session of a person; gives its token. */
  async begin(sql: Sql, personId: string, now: Date): Promise<string> {
    const token = randomBytes(32).toString('base64url');
    await sql.insert(SignedIn, [
      {
        tokenHash: tokenHash(token),
        personId,
        createdAt: now,
        expiresAt: new Date(now.getTime() + SESSION_HOURS * 3_600_000),
      },
    ]);
    return token;
  }

  /** Counts a try of a badge, or refuses it while too many were made; waits grow with every further try. */
  async mayTry(badge: string): Promise<void> {
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await beginTries(tx, badge);
      const { tries, waitS } = (await lockTries(tx, badge))!;
      if (waitS > 0)
        throw new TooOften(
          'Too many wrong PINs for this badge.',
          `Wait ${minutes(waitS)}, or ask an admin for a new PIN under Setup > People.`,
          waitS,
        );
      await addTry(tx, waitAfter(tries + 1), badge);
    });
  }

  async forgetTries(sql: Sql, badge: string): Promise<void> {
    await sql.of(SignInTry).delete({ badge });
  }

  /** Who a cookie's token belongs to, with their rights, or null. */
  async byToken(token: string | undefined): Promise<Person | null> {
    if (!token) return null;
    const row = await signedInPerson(this.db, tokenHash(token));
    if (!row) return null;
    const { changed, ...person } = row;
    return {
      ...person,
      rights: rightsOf(person.role, changed ? fromJson<ChangedRights>(changed) : {}),
    };
  }

  async signOut(token: string | undefined): Promise<void> {
    if (token) await this.db.of(SignedIn).delete({ tokenHash: tokenHash(token) });
  }

  /** What the admin made of the table of rights. */
  async changedRights(sql: Sql = this.db): Promise<ChangedRights> {
    const row = await changedRights(sql);
    return row ? fromJson<ChangedRights>(row.value) : {};
  }

  private async tidy(): Promise<void> {
    await forgetTries(this.db);
    await forgetSignedIn(this.db);
  }
}

const minutes = (seconds: number): string =>
  seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`;
