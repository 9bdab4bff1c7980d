import { afterAll, beforeAll, expect, test } from 'vitest';
import { Db, newId } from '../src/database/db.js';
import { JobsService, laneOf } from '../src/jobs/jobs.service.js';
import { LeaseLost, Leases } from '../src/leases/leases.service.js';
import { Rounds } from '../src/leases/rounds.service.js';
import { type House, openHouse } from './house.js';

let house: House;
let jobs: JobsService;
beforeAll(async () => {
  house = await openHouse('small');
  jobs = house.app.get(JobsService);
});
afterAll(() => house.close());

const NOBODY = () => ({ personId: null, at: new Date() });
const add = (kind: string, lane: string, payload: unknown = {}) =>
  house.db.tx(NOBODY(), tx => jobs.add(tx, [{ kind, lane, payload, subjectId: null }]));
const round = () => house.app.get(Rounds).once('jobs');
const jobsOf = (kind: string) =>
  house.db.rows<{ state: string; attempts: number; error: string | null }>(
    'SELECT state, attempts, error FROM job WHERE kind = ? ORDER BY id',
    [kind],
  );

test('a job that is put off for now goes on later from where it was, and is done once', async () => {
  const seen: number[] = [];
  let step = 0;
  jobs.register<object>({
    kind: 'test steps',
    tryHours: 1,
    work: async (_, turn) => {
      while (step < 3) {
        seen.push(++step);
        // As when the server is asked to stop in the middle of it.
        if (step === 1 || step === 2) return turn.later();
      }
    },
  });
  await add('test steps', 'steps');
  await round();
  expect(seen).toEqual([1, 2, 3]);
  expect(await jobsOf('test steps')).toMatchObject([{ state: 'done', error: null }]);
});

test('what fails says why and waits its turn; the lane goes on with the next', async () => {
  const done: string[] = [];
  jobs.register<{ name: string }>({
    kind: 'test fails',
    tryHours: 1,
    work: async job => {
      if (job.payload.name === 'bad') throw new Error('the truck is late');
      done.push(job.payload.name);
    },
  });
  await add('test fails', 'truck', { name: 'bad' });
  await add('test fails', 'truck', { name: 'good' });
  await round();
  expect(done).toEqual(['good']);
  expect(await jobsOf('test fails')).toMatchObject([
    { state: 'waiting', attempts: 1, error: 'the truck is late' },
    { state: 'done', error: null },
  ]);
});

test('what fails for longer than its kind may is given up, and a person can have it tried again', async () => {
  let broken = true;
  jobs.register<object>({
    kind: 'test over',
    tryHours: 2,
    work: async () => {
      if (broken) throw new Error('nobody answers');
    },
  });
  await add('test over', 'over');
  await house.db.run("UPDATE job SET createdAt = NOW(3) - INTERVAL 3 HOUR WHERE kind = 'test over'");
  await round();
  expect(await jobsOf('test over')).toMatchObject([{ state: 'given up', error: 'nobody answers' }]);
  await round();
  expect(await jobsOf('test over')).toMatchObject([{ state: 'given up', attempts: 1 }]);
  broken = false;
  const [{ id }] = (await house.db.rows("SELECT id FROM job WHERE kind = 'test over'")) as [{ id: string }];
  await jobs.retry(id);
  await round();
  expect(await jobsOf('test over')).toMatchObject([{ state: 'done', error: null }]);
  await expect(jobs.retry(id)).rejects.toThrow();
});

test('however many things wait, few are at work at once; what is about one thing goes one after another', async () => {
  const ids = Array.from({ length: 60 }, newId);
  const [atWork, most, order] = [new Set<string>(), [0], [] as string[]];
  jobs.register<{ id: string; step: number }>({
    kind: 'test many',
    tryHours: 1,
    work: async ({ payload: { id, step } }) => {
      atWork.add(id);
      most.push(atWork.size);
      await house.db.rows('SELECT SLEEP(0.005)');
      atWork.delete(id);
      order.push(`${id} ${step}`);
    },
  });
  for (const step of [1, 2])
    await house.db.tx(NOBODY(), tx =>
      jobs.add(
        tx,
        ids.map(id => ({
          kind: 'test many',
          lane: laneOf('many', id),
          payload: { id, step },
          subjectId: null,
        })),
      ),
    );
  await round();
  expect(order).toHaveLength(120);
  for (const id of ids) expect(order.indexOf(`${id} 1`)).toBeLessThan(order.indexOf(`${id} 2`));
  expect(Math.max(...most)).toBe(4);
});

test('what a transaction puts in is done as soon as it is committed, and not when the clock comes round', async () => {
  const second = await house.secondServer();
  const rounds = second.app.get(Rounds);
  // The clock never comes round.
  Object.assign(rounds, { isDue: () => false });
  rounds.start();
  const own = second.app.get(JobsService);
  const done = new Promise<number>(resolve =>
    own.register<{ n: number }>({
      kind: 'test soon',
      tryHours: 1,
      work: async job => resolve(job.payload.n),
    }),
  );
  const db = second.app.get(Db);
  const put = (n: number, then: () => void) =>
    db.tx(NOBODY(), async tx => {
      await own.add(tx, [{ kind: 'test soon', lane: 'soon', payload: { n }, subjectId: null }]);
      then();
    });
  await expect(
    put(1, () => {
      throw new Error('not this one');
    }),
  ).rejects.toThrow('not this one');
  await put(2, () => {});
  expect(await done).toBe(2);
  await second.close();
});

test('a server that is asked to stop takes no further job: the next server has it at once', async () => {
  const second = await house.secondServer();
  let [began, end] = [() => {}, () => {}];
  const [atWork, ended] = [
    new Promise<void>(resolve => (began = resolve)),
    new Promise<void>(resolve => (end = resolve)),
  ];
  const own = second.app.get(JobsService);
  const kind = {
    kind: 'test stop',
    tryHours: 1,
    work: () => {
      began();
      return ended;
    },
  };
  for (const server of [own, jobs]) server.register<object>(kind);
  for (const n of [1, 2]) await add('test stop', 'stop', { n });
  own.soon();
  await atWork;
  const stopped = second.app.get(Rounds).onApplicationShutdown();
  end();
  await stopped;
  await second.close();
  expect(await jobsOf('test stop')).toMatchObject([
    { state: 'done' },
    { state: 'waiting', attempts: 0, error: null },
  ]);
});

test('a kind that no feature does is refused when it is put in, and given up when it lies there', async () => {
  await expect(add('nobody does this', 'x')).rejects.toThrow(/No feature does jobs/);
  jobs.register<object>({ kind: 'test gone', tryHours: 1, work: async () => {} });
  await add('test gone', 'gone');
  await house.db.run("UPDATE job SET kind = 'was once' WHERE kind = 'test gone'");
  await round();
  expect(await jobsOf('was once')).toMatchObject([{ state: 'given up' }]);
});

test('who worked too long and lost the lane to another writes nothing more', async () => {
  const leases = house.app.get(Leases);
  const wrote: string[] = [];
  jobs.register<object>({
    kind: 'test slow',
    tryHours: 1,
    work: async (_, turn) => {
      await house.db.tx(NOBODY(), async tx => {
        await turn.within(tx);
        wrote.push('first');
      });
      // The database's clock passes the end of its lease, and another takes the lane.
      await house.db.run("UPDATE lease SET until = NOW(3) - INTERVAL 1 SECOND WHERE name = 'jobs slow'");
      expect(await leases.take('jobs slow', 60_000)).not.toBeNull();
      await house.db.tx(NOBODY(), async tx => {
        await turn.within(tx);
        wrote.push('second');
      });
    },
  });
  await add('test slow', 'slow');
  await round();
  expect(wrote).toEqual(['first']);
  expect(await jobsOf('test slow')).toMatchObject([{ state: 'taken' }]);
});

test('a lease is held from its last sign of life on, and is lost when its time is over', async () => {
  const leases = house.app.get(Leases);
  const lease = (await leases.take('a test', 60_000))!;
  expect(await leases.take('a test', 60_000)).toBeNull();
  await house.db.tx(NOBODY(), tx => leases.keep(tx, lease, 120_000));
  const left = await house.db.one<{ s: number }>(
    "SELECT TIMESTAMPDIFF(SECOND, NOW(3), until) AS s FROM lease WHERE name = 'a test'",
  );
  expect(left!.s).toBeGreaterThan(100);
  await house.db.run("UPDATE lease SET until = NOW(3) WHERE name = 'a test'");
  await expect(house.db.tx(NOBODY(), tx => leases.keep(tx, lease, 1_000))).rejects.toThrow(LeaseLost);
  const next = (await leases.take('a test', 60_000))!;
  expect(next.fence).toBeGreaterThan(lease.fence);
});

test('work that comes while its lane takes a last look is done at once, and not only when the clock comes round', async () => {
  const rounds = house.app.get(Rounds);
  const seen: string[] = [];
  let looked = () => {};
  const looking = new Promise<void>(resolve => {
    looked = resolve;
  });
  let goOn = () => {};
  const held = new Promise<void>(resolve => {
    goOn = resolve;
  });
  const waiting = ['first'];
  rounds.register({
    name: 'test last look',
    everyMs: 1_000_000,
    leaseMs: 60_000,
    lanes: async () => [''],
    work: async () => {
      seen.push(...waiting.splice(0));
      looked();
      // It has seen that there is nothing more, and is about to let go.
      await held;
    },
  });
  const before = rounds.once('test last look');
  await looking;
  waiting.push('second');
  const asked = rounds.once('test last look');
  goOn();
  await Promise.all([before, asked]);
  expect(seen).toEqual(['first', 'second']);
});
