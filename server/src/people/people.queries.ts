import { type Person } from '@auk/contract';
import type { Sql, Tx } from '../database/db.js';
import type { SignInTry } from './signInTry.entity.js';

export function beginTries(tx: Tx, badge: string): Promise<number> {
  return tx.run(
    'INSERT INTO signInTry (badge, tries, until) VALUES (?, 0, NOW(3)) ON DUPLICATE KEY UPDATE tries = tries',
    [badge],
  );
}

export function lockTries(
  tx: Tx,
  badge: string,
): Promise<(Pick<SignInTry, 'tries'> & { waitS: number }) | null> {
  return tx.one(
    'SELECT tries, TIMESTAMPDIFF(SECOND, NOW(3), until) AS waitS FROM signInTry WHERE badge = ? FOR UPDATE',
    [badge],
  );
}

export function addTry(tx: Tx, tries: number, badge: string): Promise<number> {
  return tx.run(
    'UPDATE signInTry SET tries = tries + 1, until = NOW(3) + INTERVAL ? SECOND WHERE badge = ?',
    [tries, badge],
  );
}

export function signedInPerson(
  sql: Sql,
  token: string,
): Promise<(Omit<Person, 'rights'> & { changed: string | null }) | null> {
  return sql.one(
    `SELECT p.id, p.name, p.badge, p.role, (SELECT CAST(value AS CHAR) FROM setting WHERE name = 'rights') AS changed
       FROM signedIn s JOIN person p ON p.id = s.personId WHERE s.tokenHash = ? AND s.expiresAt > NOW(3) AND p.active`,
    [token],
  );
}

export function changedRights(sql: Sql): Promise<{ value: string } | null> {
  return sql.one("SELECT CAST(value AS CHAR) AS value FROM setting WHERE name = 'rights'");
}

export function forgetTries(sql: Sql): Promise<number> {
  return sql.run('DELETE FROM signInTry WHERE until < NOW(3) - INTERVAL 1 DAY LIMIT 5000');
}

export function forgetSignedIn(sql: Sql): Promise<number> {
  return sql.run('DELETE FROM signedIn WHERE expiresAt < NOW(3) LIMIT 5000');
}
