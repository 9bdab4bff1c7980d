import 'reflect-metadata';
import { makeApp } from './app.js';
import { PlainCarrier } from './carriers/plain/plainCarrier.js';
import { makeDataSource } from './database/source.js';
import { DemoLoader } from './demo/load.js';
import { Rounds } from './leases/rounds.service.js';

/** Starts one server: migrates, loads the demo into an empty house, serves. Everything it needs comes from the environment that scripts/start.sh sets. */
const need = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set. Start Auk with npm start.`);
  return value;
};

const source = await makeDataSource({
  port: Number(need('AUK_DB_PORT')),
  database: need('AUK_DB_NAME'),
}).initialize();
await source.runMigrations();
const standins = `http://127.0.0.1:${need('AUK_STANDINS_PORT')}`;
const app = await makeApp({
  source,
  carriers: [
    new PlainCarrier('heron', 'Heron Post', `${standins}/heron`),
    new PlainCarrier('redfen', 'Redfen Parcel', `${standins}/redfen`),
  ],
  ...(process.env.AUK_WEB ? { web: process.env.AUK_WEB } : {}),
});
app.enableShutdownHooks();
await app.init();
const demo = app.get(DemoLoader);
if (await demo.empty()) {
  console.log('Loading the demo company ...');
  await demo.load(
    { pastOrders: Number(process.env.AUK_DEMO_PAST ?? 3000), openOrders: 170, standins },
    new Date(),
    text => console.log(`  ${text}`),
  );
}
await demo.moveStandins(standins);
await app.listen(Number(need('AUK_PORT')), '127.0.0.1');
app.get(Rounds).start();
console.log('ready');
