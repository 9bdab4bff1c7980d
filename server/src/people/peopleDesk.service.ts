import {
  type ChangedRights,
  type PersonEdit,
  type PersonIn,
  type PersonRow,
  RIGHT_NAMES,
  RIGHTS,
  type RightIn,
  type RightsTable,
  type Role,
} from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, newId, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { hashPin, PeopleService } from './people.service.js';
import { everyone, lastBadge } from './peopleDesk.queries.js';
import { Person } from './person.entity.js';
import { SignedIn } from './signedIn.entity.js';

/** Badges are numbered from here. */
const FIRST_BADGE = 1001;

/** People as the admin looks after them: added, retired, given a new PIN; and what each role may do. */
@Injectable()
export class PeopleDesk {
  constructor(
    private readonly db: Db,
    private readonly people: PeopleService,
    private readonly house: HouseService,
  ) {}

  async list(): Promise<PersonRow[]> {
    const rows = await everyone(this.db);
    return rows.map(({ until, ...r }) => ({
      ...r,
      active: !!r.active,
      waitsUntil: until?.toISOString() ?? null,
    }));
  }

  /** Adds a person; gives the badge. */
  async add(input: PersonIn, doer: Doer): Promise<{ badge: string }> {
    const pinHash = await hashPin(input.pin);
    return this.db.tx(doer, tx =>
      once(tx, input.key, 'person', async () => ({ badge: await this.put(tx, input, pinHash) })),
    );
  }

  /** Stores a new person under the next badge. */
  async put(tx: Tx, who: { name: string; role: Role }, pinHash: string, id = newId()): Promise<string> {
    const { n } = (await lastBadge(tx))!;
    const badge = `AB-${Math.max(FIRST_BADGE, (n ?? 0) + 1)}`;
    await tx.insert(Person, [{ id, badge, name: who.name, role: who.role, pinHash, active: true }]);
    await tx.tell('people', id);
    return badge;
  }

  /** Changes a person's name or role, or retires them: whoever is retired is signed out everywhere at once. */
  edit(id: string, input: PersonEdit, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const before = await this.locked(tx, id);
      const admins = await tx.of(Person).find({
        where: { role: 'admin', active: true },
        select: { id: true },
        order: { id: 'ASC' },
        lock: { mode: 'pessimistic_write' },
      });
      const wasLast = before.role === 'admin' && before.active && admins.length === 1;
      if (wasLast && (input.role !== 'admin' || !input.active))
        throw new Forbidden(`${before.name} is the only admin.`, 'Make somebody else an admin first.');
      await tx.of(Person).update({ id }, { name: input.name, role: input.role, active: input.active });
      if (!input.active) await tx.of(SignedIn).delete({ personId: id });
      await tx.tell('people', id);
    });
  }

  /** Gives a person a new PIN: old sessions end, and a badge that waits because of wrong PINs may be tried again. */
  async newPin(id: string, pin: string, doer: Doer): Promise<void> {
    const pinHash = await hashPin(pin);
    await this.db.tx(doer, async tx => {
      const { badge } = await this.locked(tx, id);
      await tx.of(Person).update({ id }, { pinHash });
      await tx.of(SignedIn).delete({ personId: id });
      await this.people.forgetTries(tx, badge);
      await tx.tell('people', id);
    });
  }

  /** The table of rights as it stands. */
  async rights(sql: Sql = this.db): Promise<RightsTable> {
    const changed = await this.people.changedRights(sql);
    return Object.fromEntries(
      RIGHT_NAMES.map(r => [r, [...(changed[r] ?? (RIGHTS[r].roles as readonly Role[]))]]),
    ) as RightsTable;
  }

  /** Gives a role a right or takes it away; it counts from the next request on. The admin has all of them, always. */
  setRight(input: RightIn, doer: Doer): Promise<RightsTable> {
    return this.db.tx(doer, async tx => {
      if (input.role === 'admin')
        throw new Forbidden('The admin has every right.', 'Give the person another role.');
      const before = await this.house.lockedSetting<ChangedRights>(tx, 'rights', {});
      const table = await this.rights(tx);
      const roles = new Set<Role>(table[input.right]);
      if (input.on) roles.add(input.role);
      else roles.delete(input.role);
      const changed: ChangedRights = {
        ...before,
        [input.right]: [...roles],
      };
      await this.house.set(tx, 'rights', changed);
      await tx.tell('people', '');
      return this.rights(tx);
    });
  }

  /** A person for a badge to be printed. */
  async badge(id: string): Promise<{ name: string; badge: string; role: Role }> {
    const row = await this.db
      .of(Person)
      .findOne({ where: { id }, select: { name: true, badge: true, role: true } });
    if (!row) throw new NotHere('That person');
    return row;
  }

  private async locked(tx: Tx, id: string): Promise<Pick<Person, 'name' | 'badge' | 'role' | 'active'>> {
    const row = await tx.of(Person).findOne({
      where: { id },
      select: { name: true, badge: true, role: true, active: true },
      lock: { mode: 'pessimistic_write' },
    });
    if (!row) throw new NotHere('That person', 'Look at the list of people.');
    return row;
  }
}
