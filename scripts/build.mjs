// Builds what changed: TypeScript of all rooms, then the web pages. A stamp of all sources skips both when nothing changed.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const ROOMS = ['core', 'contract', 'demo', 'standins', 'server', 'web'];
const STAMP = 'node_modules/.auk-built';

/** What is made, or tests it: nothing of what is built comes of it. */
const APART = new Set(['dist', 'dist-types', 'node_modules', 'test']);

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
  .update(readFileSync('tsconfig.base.json'));
for (const room of ROOMS) for (const path of files(room)) hash.update(path).update(readFileSync(path));
const stamp = hash.digest('hex');
const built = ['server/dist/main.js', 'web/dist/index.html', 'standins/dist/main.js'].every(existsSync);
if (!(built && existsSync(STAMP) && readFileSync(STAMP, 'utf8') === stamp)) {
  console.log('Building ...');
  const run = (...args) => execFileSync(process.execPath, args, { stdio: 'inherit' });
  run('node_modules/typescript7/bin/tsc', '-b', ...ROOMS);
  run('node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn');
  writeFileSync(STAMP, stamp);
}
