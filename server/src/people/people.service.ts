import { createHash, randomBytes } from 'node:crypto';
import type { Person, SignIn } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { hash, verify } from '@node-rs/argon2';
import { Db } from '../database/db.js';
import { Trouble } from '../http/problem.js';

const SESSION_HOURS = 12;
const TRIES = 5;
const LOCK_MINUTES = 2;

const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Hashes a PIN slowly, with its own salt (argon2id). */
export const hashPin = (pin: string): Promise<string> =>
  hash(pin, { memoryCost: 8192, timeCost: 2, parallelism: 1 });

/** Sign-in by badge and PIN; sessions live in the database so that any server knows them. */
@Injectable()
export class PeopleService {
  constructor(private readonly db: Db) {}

  /** Checks badge and PIN, five tries, then a pause of two minutes; gives a token for the cookie. */
  async signIn(input: SignIn, now: Date): Promise<{ token: string; person: Person }> {
    const badge = input.badge.toUpperCase();
    const row = await this.db.one<Person & { pinHash: string; lockedUntil: Date | null }>(
      'SELECT id, badge, name, role, pinHash, lockedUntil FROM person WHERE badge = ? AND active',
      [badge],
    );
    if (row?.lockedUntil && row.lockedUntil > now)
      throw new Trouble(
        429,
        'Too often',
        'Too many wrong PINs for this badge.',
        `Wait ${LOCK_MINUTES} minutes, or ask an admin to reset the PIN.`,
      );
    if (!row || !(await verify(row.pinHash, input.pin))) {
      if (row) await this.countFailure(row.id, now);
      throw new Trouble(
        401,
        'Not signed in',
        'Badge and PIN do not belong together.',
        'Scan the badge again and type the PIN slowly.',
      );
    }
    const token = randomBytes(32).toString('base64url');
    await this.db.run('UPDATE person SET failures = 0, lockedUntil = NULL WHERE id = ?', [row.id]);
    await this.db.insert('signedIn', [
      {
        tokenHash: tokenHash(token),
        personId: row.id,
        createdAt: now,
        expiresAt: new Date(now.getTime() + SESSION_HOURS * 3_600_000),
      },
    ]);
    return { token, person: { id: row.id, name: row.name, badge: row.badge, role: row.role } };
  }

  /** Who a cookie's token belongs to, or null. */
  async byToken(token: string | undefined): Promise<Person | null> {
    if (!token) return null;
    return this.db.one<Person>(
      'SELECT p.id, p.name, p.badge, p.role FROM signedIn s JOIN person p ON p.id = s.personId WHERE s.tokenHash = ? AND s.expiresAt > NOW(3) AND p.active',
      [tokenHash(token)],
    );
  }

  async signOut(token: string | undefined): Promise<void> {
    if (token) await this.db.run('DELETE FROM signedIn WHERE tokenHash = ?', [tokenHash(token)]);
  }

  private async countFailure(id: string, now: Date): Promise<void> {
    const until = new Date(now.getTime() + LOCK_MINUTES * 60_000);
    await this.db.run(
      'UPDATE person SET failures = failures + 1, lockedUntil = IF(failures % ? = 0, ?, lockedUntil) WHERE id = ?',
      [TRIES, until, id],
    );
  }
}
