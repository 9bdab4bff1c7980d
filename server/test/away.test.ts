import { connect, createServer, type Server, type Socket } from 'node:net';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, productOf, scanOf } from './drive.js';
import { differences, type House, openHouse } from './house.js';
import { serveProcess } from './processes.js';

let house: House;
beforeAll(async () => {
  house = await openHouse('small');
});
afterAll(() => house.close());

/** A way to the database that can be cut and opened again. */
class Way {
  private server: Server | null = null;
  private readonly open = new Set<Socket>();
  port = 0;

  async begin(): Promise<void> {
    const server = createServer(from => {
      const to = connect(Number(process.env.AUK_TEST_DB_PORT), '127.0.0.1');
      for (const [one, other] of [
        [from, to],
        [to, from],
      ] as const) {
        this.open.add(one);
        one.on('error', () => other.destroy());
        one.on('close', () => other.destroy());
        one.pipe(other);
      }
    });
    await new Promise<void>(done => server.listen(this.port, '127.0.0.1', done));
    this.server = server;
    this.port = (server.address() as { port: number }).port;
  }

  cut(): Promise<void> {
    return new Promise(done => {
      this.server!.close(() => done());
      for (const socket of this.open) socket.destroy();
      this.open.clear();
    });
  }
}

test('a database that goes away is said so, also in the middle of a scan; the server goes on by itself, and each scan counts once', async () => {
  const way = new Way();
  await way.begin();
  const server = await serveProcess(house, way.port);
  try {
    const one = await server.signIn();
    const sku = (await house.db.one<{ sku: string }>(
      "SELECT x.sku FROM productStock s JOIN product x ON x.id = s.productId WHERE x.kind = 'piece' ORDER BY s.onHand - s.reserved DESC LIMIT 1",
    ))!.sku;
    await bringIn(one, [['AWAY-1', sku, 12, '2.50']]);
    const id = await idOfOrder(one, 'AWAY-1');
    const { no } = (await one.post('picking/lists', { orderIds: [id] })).body;
    const { sessionId, state } = (await one.post('picking/open', { code: no, device: 'd' })).body;
    const before = (await productOf(one, sku)).onHand;
    const scans = state.stops.flatMap(
      (stop: { placeCode: string; wanted: number; product: { codes: { code: string }[] } }) => [
        scanOf(stop.placeCode),
        ...Array.from({ length: stop.wanted }, () => scanOf(stop.product.codes[0]!.code)),
      ],
    );
    const send = (scan: unknown) => one.post(`picking/sessions/${sessionId}/scans`, scan);
    let away = 0;
    for (const scan of scans) {
      const onItsWay = send(scan);
      await way.cut();
      const answers = [await onItsWay, await send(scan)];
      for (const { status, body } of answers.filter(a => a.status !== 201)) {
        expect([status, body.type, body.retry]).toEqual([503, '/problems/away', 'later']);
        away++;
      }
      expect(answers[1]!.status).toBe(503);
      await way.begin();
      // As a device does: what is told to be away is sent again until it is judged.
      let judged = await send(scan);
      while (judged.status === 503) judged = await send(scan);
      expect(judged.body.answer.tone).not.toBe('wrong');
    }
    expect(away).toBeGreaterThanOrEqual(scans.length);
    expect((await one.get(`orders/${id}`)).body.row.stage).toBe('Picked');
    expect((await productOf(one, sku)).onHand).toBe(before - 12);
    const events = await house.db.one<{ n: number }>(
      'SELECT COUNT(*) AS n FROM scanEvent WHERE sessionId = ?',
      [sessionId],
    );
    expect(events!.n).toBe(scans.length);
  } finally {
    await server.kill();
    await way.cut();
  }
  expect(await differences(house)).toEqual([]);
}, 120_000);
