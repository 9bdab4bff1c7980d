import { execFile, execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { Standins } from '@auk/standins';
import type { Type } from '@nestjs/common';
import { PATH_METADATA, ROUTE_ARGS_METADATA } from '@nestjs/common/constants.js';
import type { RouteParamtypes } from '@nestjs/common/enums/route-paramtypes.enum.js';
import { DiscoveryService, MetadataScanner, ModulesContainer } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { DataSource } from 'typeorm';
import { v7 } from 'uuid';
import { makeApp } from '../src/app.js';
import { checkData } from '../src/checks/checkData.js';
import { Db } from '../src/database/db.js';
import { migrate } from '../src/database/migrate.js';
import { openDataSource } from '../src/database/source.js';
import { DemoLoader } from '../src/demo/load.js';

/** A whole installation for tests: a database of its own on the test MariaDB, stand-ins, a small demo, listening on a free port. */
export interface House {
  app: NestExpressApplication;
  db: Db;
  standins: Standins;
  url: string;
  /** The name of its database, and where its stand-ins listen: for servers that are processes of their own. */
  database: string;
  standinsPort: number;
  signIn: (badge: string) => Promise<Caller>;
  /** Another server on the same database and stand-ins. */
  secondServer: () => Promise<{ app: NestExpressApplication; url: string; close: () => Promise<void> }>;
  close: () => Promise<void>;
}

/** Calls the API as one person. */
export interface Caller {
  cookie: string;
  get: (path: string) => Promise<Answer>;
  post: (path: string, body?: unknown) => Promise<Answer>;
  file: (path: string, bytes: Buffer | string) => Promise<Answer>;
  /** Has a file taken in and waits for its job; the body is the report. */
  takeIn: (kind: string, query: string, bytes: Buffer | string) => Promise<Answer>;
}

export interface Answer {
  status: number;
  // biome-ignore lint/suspicious/noExplicitAny: tests look into answers of many shapes
  body: any;
}

let made = 0;
/** The demos that tests work in. */
const DEMOS = {
  small: { pastOrders: 10, openOrders: 30 },
  usual: { pastOrders: 40, openOrders: 160 },
  large: { pastOrders: 40, openOrders: 330 },
};
/** Demos that were loaded before, as SQL: the next house of that size is a copy of it, some minutes older. */
const loaded = new Map<string, Buffer>();

/** A database as SQL, as it is at one moment; whatever goes on in the house meanwhile is not held up. */
const dumped = async (client: string[]): Promise<Buffer> =>
  (
    await promisify(execFile)('mariadb-dump', [...client, '--single-transaction', '--hex-blob'], {
      encoding: 'buffer',
      maxBuffer: 2 ** 30,
    })
  ).stdout;

/** Opens a house with a demo; without one, a house of one's own that nobody has opened yet. */
export async function openHouse(demo: keyof typeof DEMOS | null = 'usual'): Promise<House> {
  process.env.AUK_SECRET ??= 'a secret of the tests only';
  process.env.AUK_LOOPBACK ??= 'yes';
  const port = Number(process.env.AUK_TEST_DB_PORT);
  if (!port)
    throw new Error('AUK_TEST_DB_PORT is not set: run the tests with npm test, which starts their database.');
  const name = `auk_test_${process.pid}_${++made}`;
  const root = await new DataSource({
    type: 'mariadb',
    host: '127.0.0.1',
    port,
    username: 'root',
  }).initialize();
  await root.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`);
  const client = ['--no-defaults', `-P${port}`, '-h127.0.0.1', '-uroot', name];
  const copy = demo && loaded.get(demo);
  if (copy) execFileSync('mariadb', client, { input: copy });
  const source = await openDataSource({ port, database: name });
  await migrate(source);
  const standins = new Standins(mkdtempSync(join(tmpdir(), 'auk-standins-')));
  const standinsPort = await standins.listen();
  const at = `http://127.0.0.1:${standinsPort}`;
  const scaleAt = `127.0.0.1:${await standins.scale.listen()}`;
  const mailServer = `smtp://127.0.0.1:${await standins.mail.listen()}`;
  const serve = async (on: DataSource) => {
    const made = await makeApp({ source: on, checkAnswers: true });
    await made.listen(0, '127.0.0.1');
    return made;
  };
  const app = await serve(source);
  const url = addressOf(app);
  if (demo) {
    if (!copy) {
      await app.get(DemoLoader).load({ ...DEMOS[demo], standins: at, scaleAt }, new Date());
      loaded.set(demo, await dumped(client));
    }
    await app.get(DemoLoader).moveStandins(at, scaleAt, { server: mailServer, pages: url });
  }
  const secondServer = async () => {
    const own = await openDataSource({ port, database: name });
    const second = await serve(own);
    const end = async () => {
      await second.close();
      if (own.isInitialized) await own.destroy();
    };
    return { app: second, url: addressOf(second), close: end };
  };
  const close = async () => {
    await app.close();
    await standins.close();
    if (source.isInitialized) await source.destroy();
    await root.query(`DROP DATABASE ${name}`);
    await root.destroy();
  };
  return {
    app,
    db: app.get(Db),
    standins,
    url,
    database: name,
    standinsPort,
    signIn: badge => callerAt(url, badge),
    secondServer,
    close,
  };
}

const addressOf = (app: NestExpressApplication): string =>
  `http://127.0.0.1:${(app.getHttpServer().address() as AddressInfo).port}`;

/** Signs in at a server and calls its API. */
export async function callerAt(url: string, badge: string, pin = '2468'): Promise<Caller> {
  const response = await fetch(`${url}/api/v1/people/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ badge, pin }),
  });
  const cookie = response.headers.get('set-cookie')?.split(';')[0] ?? '';
  const call = async (method: string, path: string, type: string, body?: BodyInit): Promise<Answer> => {
    const got = await fetch(`${url}/api/v1/${path}`, {
      method,
      headers: { cookie, 'content-type': type },
      ...(body === undefined ? {} : { body }),
    });
    const text = await got.text();
    return {
      status: got.status,
      body: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : text,
    };
  };
  return {
    cookie,
    get: path => call('GET', path, 'application/json'),
    post: (path, body = {}) => call('POST', path, 'application/json', JSON.stringify(body)),
    file: (path, bytes) => call('POST', path, 'text/csv', bytes as BodyInit),
    takeIn: async (kind, query, bytes) => {
      const id = v7();
      let run = await call('POST', `imports/${kind}/runs?${query}&id=${id}`, 'text/csv', bytes as BodyInit);
      while (run.status === 200 && run.body.state === 'under way' && run.body.says === null)
        run = await call('GET', `imports/runs/${id}`, 'application/json');
      if (run.status !== 200) return run;
      if (run.body.state !== 'done') throw new Error(`The file was not taken in: ${run.body.says}`);
      return { status: 200, body: run.body.report };
    },
  };
}

/** Differences between what is stored and what follows; tests expect none. */
export const differences = (house: House) => checkData(house.db);

/** Every endpoint of every controller, as Nest knows it, with what its method is handed. */
export function endpoints(house: House) {
  const scanner = new MetadataScanner();
  return new DiscoveryService(house.app.get(ModulesContainer))
    .getControllers()
    .flatMap(({ instance, metatype }) =>
      scanner
        .getAllMethodNames(Object.getPrototypeOf(instance))
        .filter(name => Reflect.hasMetadata(PATH_METADATA, instance[name]))
        .map(name => ({
          id: `${metatype!.name}.${name}`,
          controller: metatype as Type,
          handler: instance[name] as () => unknown,
          args: Object.keys(Reflect.getMetadata(ROUTE_ARGS_METADATA, metatype!, name) ?? {}).map(
            key => Number(key.split(':')[0]) as RouteParamtypes,
          ),
        })),
    );
}
