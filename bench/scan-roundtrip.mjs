// scan.roundtrip: benches that scan once a second each, beside an open Board; p95 of the round trip, against the bare statements of the same transaction.
import { randomUUID } from 'node:crypto';
import { PickingService } from '@auk/server/picking/picking.service';
import { createConnection } from 'mysql2/promise';
import { caller, percentile, receive, services } from './house.mjs';

/** Times the floor of the same run, because milliseconds say little on a machine that is shared. */
const GOAL = 3;
const SECONDS = 60;
const NONE = '00000000-0000-0000-0000-000000000000';

export async function* scanRoundtrip() {
  for (const benches of [3, 30]) {
    const { sessions, lead, house } = await prepare(benches);
    const board = openBoard(lead);
    const times = await Promise.all(sessions.map((s, i) => scanning(lead, s, i / benches)));
    board.stop();
    const floor = percentile(await floorOf(house.db, sessions, benches), 0.95);
    const value = percentile(times.flat(), 0.95);
    await house.close();
    yield {
      n: benches,
      value,
      unit: 'ms p95',
      floor,
      ratio: value / floor,
      goal: `ratio <= ${GOAL}`,
      holds: value / floor <= GOAL,
    };
  }
}

/** Orders of many seed packets, picked and opened at as many benches. */
export async function prepare(benches, units = SECONDS * 2 + 40) {
  const lead = await caller();
  const house = await services();
  await receive(house, units * benches, ['SED-CLO']);
  const tag = `S${benches}x${units}`;
  const rows = Array.from(
    { length: benches },
    (_, i) => `${tag}-${i},Buyer ${tag} ${i},${i} Alder Lane,Boise,ID,83702,SED-CLO,Seeds,${units},2.50`,
  );
  await lead.takeIn(
    'orders',
    `channel=web&name=${tag}.csv`,
    `Order number,Buyer name,Address 1,City,State,Zip,SKU,Item title,Qty,Unit price\n${rows.join('\n')}`,
  );
  const orders = (await lead.get(`orders?words=${tag}-&stage=Clear`)).rows;
  const picking = house.app.get(PickingService);
  const list = await picking.release(
    { orderIds: orders.map(o => o.id), method: 'cluster' },
    { personId: null, at: new Date() },
  );
  await house.db.tx({ personId: null, at: new Date() }, tx => picking.takeAll(tx, list.id));
  const sessions = [];
  for (const [i, o] of orders.entries())
    sessions.push(await lead.post('packing/open', { code: o.no, device: `bench-${i}` }));
  return { sessions, lead, house };
}

/** A Board as a browser keeps it: the live stream open, asked again at most every 700 ms. */
function openBoard(lead) {
  const gone = new AbortController();
  const watch = async () => {
    const response = await fetch(`${lead.base}/live`, {
      headers: { cookie: lead.cookie },
      signal: gone.signal,
    });
    let asked = 0;
    for await (const part of response.body) {
      if (part.length === 0 || performance.now() - asked < 700) continue;
      asked = performance.now();
      await Promise.all([lead.get('departures/board'), lead.get('departures/strip')]);
    }
  };
  const every = setInterval(() => void lead.get('departures/board'), 5_000);
  watch().catch(error => {
    if (!gone.signal.aborted) throw error;
  });
  return {
    stop: () => {
      gone.abort();
      clearInterval(every);
    },
  };
}

/** A bench that scans once a second for so long; `first` is the number of its first scan. */
export async function scanning(lead, session, phase, seconds = SECONDS, first = 0) {
  const times = [];
  const code = session.state.lines[0].product.codes[0].code;
  const start = performance.now() + phase * 1000;
  for (let i = 0; i < seconds; i++) {
    await new Promise(resolve => setTimeout(resolve, Math.max(0, start + i * 1000 - performance.now())));
    const began = performance.now();
    const { answer } = await lead.post(`packing/sessions/${session.sessionId}/scans`, {
      id: randomUUID(),
      text: code,
      at: new Date().toISOString(),
      device: 'bench',
      count: first + i,
    });
    times.push(performance.now() - began);
    if (answer.kind !== 'counted') throw new Error(answer.says);
  }
  return times;
}

/** The statements of one scan, bare, at the same rate from as many connections; each moves one unit on as the scan does. */
async function floorOf(db, sessions, benches) {
  const seconds = 30;
  const bare = await Promise.all(
    sessions.map(async s => {
      const connection = await createConnection({
        host: '127.0.0.1',
        port: Number(process.env.AUK_DB_PORT),
        user: 'root',
        database: process.env.AUK_DB_NAME,
        timezone: 'Z',
      });
      const [row] = await db.rows(
        `SELECT c.id AS parcelId, c.placeId, c.orderId, a.partId, a.productId, a.stopKey, p.toteId FROM parcel c JOIN scanSession x ON x.orderId = c.orderId AND x.kind = 'pack'
       JOIN allocation a ON a.orderId = c.orderId AND a.hold = 'picked' JOIN pickStop p ON p.id = a.stopKey WHERE x.id = ?`,
        [s.sessionId],
      );
      return { connection, row, sessionId: s.sessionId };
    }),
  );
  const times = await Promise.all(
    bare.map(async (b, k) => {
      const took = [];
      const start = performance.now() + (k / benches) * 1000;
      for (let i = 0; i < seconds; i++) {
        await new Promise(resolve => setTimeout(resolve, Math.max(0, start + i * 1000 - performance.now())));
        const began = performance.now();
        await bareScan(b);
        took.push(performance.now() - began);
      }
      return took;
    }),
  );
  for (const b of bare) await b.connection.end();
  return times.flat();
}

async function bareScan({ connection: c, row: r, sessionId }) {
  const id = randomUUID();
  const now = new Date();
  await c.beginTransaction();
  const [[session]] = await c.query('SELECT id, state FROM scanSession WHERE id = ? FOR UPDATE', [sessionId]);
  await c.query('SELECT sessionId FROM scanEvent WHERE id = ?', [id]);
  await c.query(
    'INSERT INTO scanEvent (id, sessionId, device, deviceCount, deviceAt, at, scan, answer) VALUES (?,?,?,?,?,?,?,?)',
    [id, sessionId, 'bare', 1, now, now, '{}', '{}'],
  );
  const state = typeof session.state === 'string' ? session.state : JSON.stringify(session.state);
  await c.query('UPDATE scanSession SET state = ?, lastScanAt = ? WHERE id = ?', [state, now, sessionId]);
  await c.query('SELECT id, placeId, orderId FROM parcel WHERE id = ?', [r.parcelId]);
  await c.query(
    'SELECT a.partId FROM allocation a JOIN pickStop s ON s.id = a.stopKey WHERE a.partId = ? AND a.hold = ? AND a.parcelKey = ? AND a.quantity > 0',
    [r.partId, 'picked', NONE],
  );
  await c.query(
    'UPDATE stockBalance SET onHand = onHand - 1 WHERE productId = ? AND placeId = ? AND lotKey = ?',
    [r.productId, r.toteId, NONE],
  );
  await c.query(
    'INSERT INTO stockBalance (productId, placeId, lotKey, bounded, onHand, listed) VALUES (?,?,?,1,1,0) ON DUPLICATE KEY UPDATE onHand = onHand + 1',
    [r.productId, r.placeId, NONE],
  );
  await c.query(
    "UPDATE allocation SET quantity = quantity - 1 WHERE partId = ? AND hold = 'picked' AND stopKey = ? AND parcelKey = ?",
    [r.partId, r.stopKey, NONE],
  );
  await c.query(
    "INSERT INTO allocation (partId, hold, stopKey, parcelKey, orderId, productId, quantity) VALUES (?,'packed',?,?,?,?,1) ON DUPLICATE KEY UPDATE quantity = quantity + 1",
    [r.partId, r.stopKey, r.parcelId, r.orderId, r.productId],
  );
  await c.query(
    "INSERT INTO stockMove (at, productId, fromPlaceId, toPlaceId, quantity, why) VALUES (?,?,?,?,1,'pack')",
    [now, r.productId, r.toteId, r.placeId],
  );
  await c.query(
    "INSERT INTO allocationEntry (at, partId, hold, stopKey, parcelKey, quantity, why) VALUES (?,?,'picked',?,?,-1,'pack'),(?,?,'packed',?,?,1,'pack')",
    [now, r.partId, r.stopKey, NONE, now, r.partId, r.stopKey, r.parcelId],
  );
  await c.commit();
}
