import 'reflect-metadata';
import type { AddressInfo } from 'node:net';
import { makeApp } from './app.js';
import { migrate } from './database/migrate.js';
import { openDataSource } from './database/source.js';
import { InboundDemo } from './demo/inbound.js';
import { DemoLoader } from './demo/load.js';
import { Rounds } from './leases/rounds.service.js';
import { Opening } from './setup/opening.service.js';

/** Starts one server: migrates, fills an empty house with the demo when told to, serves. Everything it needs comes from the environment that scripts/start.sh sets. */
const need = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set. Start Auk with npm start.`);
  return value;
};

const source = await openDataSource({
  port: Number(need('AUK_DB_PORT')),
  database: need('AUK_DB_NAME'),
});
await migrate(source);
/** `demo` fills an empty database with the demo company; without it an empty house waits for its first page. */
const demo = process.env.AUK_DEMO === 'yes';
const standins = demo ? `http://127.0.0.1:${need('AUK_STANDINS_PORT')}` : null;
const scaleAt = `127.0.0.1:${process.env.AUK_STANDINS_SCALE_PORT ?? 0}`;
const mailAt = process.env.AUK_STANDINS_MAIL_PORT
  ? {
      server: `smtp://127.0.0.1:${process.env.AUK_STANDINS_MAIL_PORT}`,
      pages: `http://localhost:${need('AUK_PORT')}`,
    }
  : null;
const { AUK_LAN, AUK_TLS_CERT: cert, AUK_TLS_KEY: key } = process.env;
/** How certificates are made is loaded for phones alone. */
const lan = AUK_LAN ? await import('./lan/certificate.js') : null;
const addresses = lan?.lanAddresses() ?? [];
const tls = lan
  ? cert && key
    ? lan.givenCertificate(cert, key)
    : await lan.houseCertificate(need('AUK_TLS_FOLDER'), addresses, new Date())
  : null;
const app = await makeApp({
  source,
  checkAnswers: process.env.AUK_CHECK_ANSWERS === 'yes',
  ...(process.env.AUK_WEB ? { web: process.env.AUK_WEB } : {}),
  ...(tls && { tls }),
});
app.enableShutdownHooks();
await app.init();
const opening = app.get(Opening);
const { open, origin } = await opening.state();
if (origin === 'demo' && !demo)
  refuse(
    'The data folder holds the demo company, and a house of your own begins empty.',
    'Begin anew with npm start -- --own --fresh, or take another folder: AUK_DATA=folder npm start -- --own',
  );
if (origin === 'own' && demo)
  refuse(
    'The data folder holds a house of your own, not the demo company.',
    'Start it with npm start -- --own, or take another folder for the demo: AUK_DATA=folder npm start',
  );
if (standins) {
  const loader = app.get(DemoLoader);
  if (!open) {
    console.log('Loading the demo company ...');
    await loader.load(
      {
        pastOrders: Number(process.env.AUK_DEMO_PAST ?? 3000),
        openOrders: 170,
        standins,
        scaleAt,
        rules: true,
      },
      new Date(),
      text => console.log(`  ${text}`),
    );
  }
  await loader.moveStandins(standins, scaleAt, mailAt);
  if (!open) {
    const at = new Date();
    const late = new Date(at.getTime() + 3 * 86_400_000).toISOString().slice(0, 10);
    const n = await app.get(InboundDemo).load(standins, { personId: null, at }, late);
    console.log(`  ${n} shipments to centers`);
  }
}
await app.listen(Number(need('AUK_PORT')), lan ? '0.0.0.0' : '127.0.0.1');
const { port } = app.getHttpServer().address() as AddressInfo;
console.log(`listening on ${port}`);
app.get(Rounds).start();
if (!demo && !open) console.log(`The code for the first page: ${await opening.newCode()}`);
if (tls) tellLan();
console.log('ready');

/** Says where phones find Auk, and how they come to trust it. */
function tellLan(): void {
  console.log('On the local network Auk is open at');
  for (const address of addresses) console.log(`  https://${address}:${need('AUK_PORT')}`);
  if (!tls?.authority) return;
  console.log(
    `A phone trusts it once and for all: open https://${addresses[0]}:${need('AUK_PORT')}/authority.crt there and let the warning pass;
install what is loaded under Settings, Security, as a certificate of an authority (on some phones under Profiles), and allow it for web sites.`,
  );
}

function refuse(why: string, cure: string): never {
  console.log(`${why} ${cure}`);
  process.exit(1);
}
