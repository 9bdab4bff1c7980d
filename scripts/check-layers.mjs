// Imports look down only: core <- contract <- server | web | standins | demo; features of the core without circles; a feature of the
// server reaches another only through its service, queries or a named shared file. Prints each offence and exits 1.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';
import ts from 'typescript';

const MAY = {
  core: ['core'],
  contract: ['contract', 'core'],
  demo: ['demo', 'contract', 'core'],
  standins: ['standins', 'demo', 'contract', 'core'],
  server: ['server', 'demo', 'contract', 'core'],
  web: ['web', 'contract', 'core'],
};
/** Packages that the core may use: pure tables and arithmetic. It has none for now. */
const CORE_PACKAGES = [];
const offences = [];

function* sources(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* sources(path);
    else if (/\.tsx?$/.test(name)) yield path;
  }
}

const imports = path =>
  ts.preProcessFile(readFileSync(path, 'utf8'), true, true).importedFiles.map(f => f.fileName);
const featureOf = (room, path) => relative(join(room, 'src'), path).split('/')[0];

function checkPackage(room, path, name) {
  const other = /^@auk\/([a-z]+)/.exec(name)?.[1];
  if (other && !MAY[room].includes(other)) offences.push(`${path}: ${room} must not import @auk/${other}`);
  const isTest = /\.test\.tsx?$/.test(path);
  if (room === 'core' && !other && !isTest && !CORE_PACKAGES.includes(name))
    offences.push(`${path}: the core must not import ${name}`);
}

const coreEdges = new Map();
for (const room of Object.keys(MAY)) {
  for (const path of sources(join(room, 'src'))) {
    for (const name of imports(path)) {
      if (!name.startsWith('.')) {
        checkPackage(room, path, name);
        continue;
      }
      const target = normalize(join(dirname(path), name));
      if (!target.startsWith(`${room}/`)) offences.push(`${path}: ${name} leaves the room ${room}`);
      const [from, to] = [featureOf(room, path), featureOf(room, target)];
      if (from === to) continue;
      if (room === 'core' && !/\.test\.ts$/.test(path) && path !== 'core/src/index.ts')
        coreEdges.set(from, (coreEdges.get(from) ?? new Set()).add(to));
      if (room === 'server' && /\.(controller|entity)\.js$/.test(name) && !/^(app|index)\.ts$/.test(from))
        offences.push(`${path}: ${name} belongs to another feature; ask its service`);
    }
  }
}

function circle(from, path = []) {
  if (path.includes(from)) return [...path.slice(path.indexOf(from)), from];
  for (const to of coreEdges.get(from) ?? []) {
    const found = circle(to, [...path, from]);
    if (found) return found;
  }
  return null;
}
for (const feature of coreEdges.keys()) {
  const found = circle(feature);
  if (found) {
    offences.push(`the core goes in a circle: ${found.join(' > ')}`);
    break;
  }
}
for (const o of offences) console.error(o);
console.log(offences.length === 0 ? 'Layers look down only.' : `${offences.length} imports look up.`);
process.exit(offences.length === 0 ? 0 : 1);
