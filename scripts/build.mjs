// Builds what changed: TypeScript of all rooms, the server as few files, then the web pages. A stamp of all that it is made of skips all three when nothing changed.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { rolldown } from 'rolldown';

const ROOMS = ['core', 'contract', 'demo', 'standins', 'server', 'web'];
const STAMP = 'node_modules/.auk-built';

/** What is made, or tests it: nothing of what is built comes of it. */
const APART = new Set(['dist', 'dist-types', 'node_modules', 'test']);

/** Packages that look for files of their own, or that the database's layer must share with others: they stay as they are. */
const AS_THEY_ARE = /^(typeorm|mysql2|reflect-metadata|pino|thread-stream|@node-rs\/argon2)(\/|$)/;

/** Puts the many files of the server, its threads and most packages into a few: it is ready in half the time. */
async function makeWhole() {
  const at = name => `server/dist/${name}.js`;
  const whole = await rolldown({
    input: { main: at('main'), planWorker: at('planning/planWorker'), waysWorker: at('inbound/waysWorker') },
    platform: 'node',
    external: id => AS_THEY_ARE.test(id),
    logLevel: 'silent',
  });
  await whole.write({ dir: 'server/dist/whole', format: 'esm', keepNames: true });
  await whole.close();
}

/** All files of a room that it is built from. */
function* files(folder) {
  for (const name of readdirSync(folder).sort()) {
    const path = join(folder, name);
    if (APART.has(name) || name.endsWith('.tsbuildinfo')) continue;
    if (statSync(path).isDirectory()) yield* files(path);
    else yield path;
  }
}

const hash = createHash('sha256')
  .update(readFileSync('package-lock.json'))
  .update(readFileSync('tsconfig.base.json'))
  .update(readFileSync('scripts/build.mjs'));
for (const room of ROOMS) for (const path of files(room)) hash.update(path).update(readFileSync(path));
const stamp = hash.digest('hex');
const built = ['server/dist/whole/main.js', 'web/dist/index.html', 'standins/dist/main.js'].every(existsSync);
if (!(built && existsSync(STAMP) && readFileSync(STAMP, 'utf8') === stamp)) {
  console.log('Building ...');
  const run = (...args) => execFileSync(process.execPath, args, { stdio: 'inherit' });
  run('node_modules/typescript7/bin/tsc', '-b', ...ROOMS);
  await makeWhole();
  run('node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn');
  writeFileSync(STAMP, stamp);
}
