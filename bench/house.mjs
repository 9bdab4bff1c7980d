// What the benchmarks share: a way to the running server, and the server's own services for preparing data.
import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import { Db, makeApp, openDataSource, StockService } from '@auk/server';

/** The end of a job is asked for soon, and then less and less often. */
const FIRST_POLL_MS = 5;
const LONGEST_POLL_MS = 40;

const base = `http://127.0.0.1:${process.env.AUK_PORT}/api/v1`;

/** Signs in and gives a caller; the body of a refusal is thrown. */
export async function caller(badge = 'AB-1001') {
  const response = await fetch(`${base}/people/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ badge, pin: '2468' }),
  });
  const cookie = response.headers.get('set-cookie').split(';')[0];
  const call = async (method, path, body, type = 'application/json') => {
    const got = await fetch(`${base}/${path}`, { method, headers: { cookie, 'content-type': type }, body });
    const text = await got.text();
    if (!got.ok) throw new Error(`${path}: ${text}`);
    return text ? JSON.parse(text) : null;
  };
  return {
    cookie,
    base,
    get: path => call('GET', path),
    post: (path, body) => call('POST', path, JSON.stringify(body)),
    file: (path, text) => call('POST', path, text, 'text/csv'),
    /** Has a file taken in, and waits for the end of its job; gives the report. */
    takeIn: async (kind, query, text) => {
      const id = randomUUID();
      let run = await call('POST', `imports/${kind}/runs?${query}&id=${id}`, text, 'text/csv');
      for (let pause = FIRST_POLL_MS; run.state === 'under way' && run.says === null; ) {
        await wait(pause);
        pause = Math.min(LONGEST_POLL_MS, pause * 1.5);
        run = await call('GET', `imports/runs/${id}`);
      }
      if (run.state !== 'done') throw new Error(`the file was not taken in: ${run.says}`);
      return run.report;
    },
  };
}

/** The services of a server that does not listen, on the same database. */
export async function services() {
  const source = await openDataSource({
    port: Number(process.env.AUK_DB_PORT),
    database: process.env.AUK_DB_NAME,
  });
  const app = await makeApp({ source });
  await app.init();
  const db = app.get(Db);
  return {
    app,
    db,
    close: async () => {
      await app.close();
      if (source.isInitialized) await source.destroy();
    },
  };
}

/** Receives units of every stocked product by the ledger: all into one bin, or each into one of its own. */
export async function receive({ app, db }, quantity, skus = null, spread = false) {
  const [{ id: from }] = await db.rows("SELECT id FROM place WHERE kind = 'outside'");
  const bins = await db.rows("SELECT id FROM place WHERE kind = 'bin' ORDER BY MD5(code)");
  const [first] = await db.rows("SELECT id FROM place WHERE kind = 'bin' ORDER BY code LIMIT 1");
  const products = skus
    ? await db.rows('SELECT id FROM product WHERE sku IN (?)', [skus])
    : await db.rows("SELECT id FROM product WHERE kind <> 'bundle'");
  const moves = products.map((p, i) => ({
    productId: p.id,
    lotId: null,
    from,
    to: spread ? bins[i % bins.length].id : first.id,
    quantity,
    why: 'receive',
    causeId: null,
  }));
  const stock = app.get(StockService);
  await db.tx({ personId: null, at: new Date() }, async tx => {
    await stock.lockFree(
      tx,
      moves.map(m => m.productId),
    );
    await stock.apply(tx, { moves });
  });
}

/** The p-th percentile (0 to 1) of numbers, by nearest rank. */
export function percentile(numbers, p) {
  const sorted = [...numbers].sort((a, b) => a - b);
  return sorted[Math.max(0, Math.ceil(p * sorted.length) - 1)];
}
