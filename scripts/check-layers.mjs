// What may import what, who writes which table, and where SQL may stand. Prints each offence and exits 1.
// - Rooms look down only: core <- contract <- server | web | standins | demo. Features of the core go in no circle.
// - Features of the front go in no circle either, and what all of them use (parts, theme, scans) knows none of them.
// - A feature of the server imports another only through its door, FEATURE/FEATURE.module, and no circle goes through doors. Queries
//   may take the types of entities anywhere: the rows of their joins.
// - A feature writes its own tables only; whose a table is, its entity file says.
// - SQL text stands in *.queries.ts and in the files of scripts/sql-files.json, each with its reason.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, join, normalize, relative } from 'node:path';
import ts from 'typescript';

const ROOT = process.argv[2] ?? '.';
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
/** Folders of the server that are no features: they know none, and every feature may use their files. */
const GROUND = new Set(['database', 'http', 'acts', 'reference']);
/** Folders of the front that every feature may use; they know none. */
const WEB_GROUND = new Set(['parts', 'theme', 'scans']);
/** Files that put the house together, or look through all of it. */
const WHOLE = new Set(['app.ts', 'main.ts', 'index.ts', 'entities.ts', 'checkDataMain.ts']);
/** The demo makes a whole company before any service of it runs. */
const MAKES_ALL = new Set(['demo']);
const { sql: SQL_FILES, writes: FOREIGN_WRITES } = JSON.parse(
  readFileSync(join(ROOT, 'scripts/sql-files.json'), 'utf8'),
);
const offences = [];

function* sources(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* sources(path);
    else if (/\.tsx?$/.test(name)) yield path;
  }
}

const textOf = path => readFileSync(path, 'utf8');
const imports = path => ts.preProcessFile(textOf(path), true, true).importedFiles.map(f => f.fileName);
const featureOf = (room, path) => relative(join(ROOT, room, 'src'), path).split('/')[0];
const shown = path => relative(ROOT, path);

function checkPackage(room, path, name) {
  const other = /^@auk\/([a-z]+)/.exec(name)?.[1];
  if (other && !MAY[room].includes(other))
    offences.push(`${shown(path)}: ${room} must not import @auk/${other}`);
  const isTest = /\.test\.tsx?$/.test(path);
  if (room === 'core' && !other && !isTest && !CORE_PACKAGES.includes(name))
    offences.push(`${shown(path)}: the core must not import ${name}`);
}

/** Queries join tables of other features; their rows are described by the entities, of which they know the types alone. */
const describesRows = (path, name) =>
  path.endsWith('.queries.ts') &&
  name.endsWith('.entity.js') &&
  new RegExp(`import type \\{[^}]*\\} from '${name.replaceAll('.', '\\.')}'`).test(textOf(path));

const edges = { core: new Map(), server: new Map(), web: new Map() };
const edge = (room, from, to) => edges[room].set(from, (edges[room].get(from) ?? new Set()).add(to));

function checkServer(path, from, to, name) {
  if (WHOLE.has(from)) return;
  if (GROUND.has(from)) {
    if (!GROUND.has(to) && !WHOLE.has(basename(to).replace(/\.js$/, '.ts')))
      offences.push(`${shown(path)}: ${from} is under the features and must not know ${to}`);
    return;
  }
  if (GROUND.has(to)) return;
  edge('server', from, to);
  if (basename(name) !== `${to}.module.js`)
    offences.push(
      `${shown(path)}: ${name} goes past the door of ${to}; import from ../${to}/${to}.module.js`,
    );
}

function checkWeb(path, from, to) {
  // Files at the root are the doors to the server and the way in.
  if (from.includes('.') || to.includes('.')) return;
  edge('web', from, to);
  if (WEB_GROUND.has(from) && !WEB_GROUND.has(to))
    offences.push(`${shown(path)}: ${from} is under the features and must not know ${to}`);
}

for (const room of Object.keys(MAY)) {
  for (const path of sources(join(ROOT, room, 'src'))) {
    for (const name of imports(path)) {
      if (!name.startsWith('.')) {
        checkPackage(room, path, name);
        continue;
      }
      if (describesRows(path, name)) continue;
      const target = normalize(join(dirname(path), name));
      if (relative(join(ROOT, room), target).startsWith('..'))
        offences.push(`${shown(path)}: ${name} leaves the room ${room}`);
      const [from, to] = [featureOf(room, path), featureOf(room, target)];
      if (from === to) continue;
      if (room === 'core' && !/\.test\.ts$/.test(path) && !path.endsWith('core/src/index.ts'))
        edge('core', from, to);
      if (room === 'server') checkServer(path, from, to, name);
      if (room === 'web') checkWeb(path, from, to);
    }
  }
}

function circle(room, from, path = []) {
  if (path.includes(from)) return [...path.slice(path.indexOf(from)), from];
  for (const to of edges[room].get(from) ?? []) {
    const found = circle(room, to, [...path, from]);
    if (found) return found;
  }
  return null;
}
for (const room of ['core', 'server', 'web'])
  for (const feature of edges[room].keys()) {
    const found = circle(room, feature);
    if (!found) continue;
    offences.push(`features of the ${room} go in a circle: ${found.join(' > ')}`);
    break;
  }

/** Whose each table is, and the table of each entity class, by the entity files. */
const ownerOf = new Map();
const tableOf = new Map();
for (const path of sources(join(ROOT, 'server/src'))) {
  if (!path.endsWith('.entity.ts')) continue;
  const table = /@Entity\('(\w+)'\)/.exec(textOf(path))[1];
  ownerOf.set(table, featureOf('server', path));
  tableOf.set(/export class (\w+)/.exec(textOf(path))[1], table);
}

/** The text literals of a file, templates with their holes left out. */
function literals(path) {
  const found = [];
  const visit = node => {
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) found.push(node.text);
    else if (ts.isTemplateExpression(node))
      found.push([node.head.text, ...node.templateSpans.map(s => s.literal.text)].join(' ? '));
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile(path, textOf(path), ts.ScriptTarget.Latest, true));
  return found;
}
const SQL =
  /\b(SELECT\s.+\sFROM|SELECT \d|INSERT (IGNORE )?INTO|UPDATE \w+ |DELETE FROM|REPLACE INTO|ON DUPLICATE KEY|FOR UPDATE)\b/s;
const WRITES = /\b(?:INSERT (?:IGNORE )?INTO|UPDATE|DELETE FROM|REPLACE INTO)\s+`?(\w+)`?/g;

/** Tables that a file writes through their entities, under whatever name it imported them. */
function writtenByEntity(text) {
  const names = new Map([...tableOf].map(([cls, table]) => [cls, table]));
  for (const m of text.matchAll(/\b(\w+) as (\w+)\b/g))
    if (tableOf.has(m[1])) names.set(m[2], tableOf.get(m[1]));
  const writes = [
    /\.(?:insert|upsert|addTo)\(\s*'?(\w+)'?,/g,
    /\.of\((\w+)\)\s*\.(?:insert|update|delete|upsert|save|remove|increment|decrement)\(/g,
  ];
  return writes.flatMap(w => [...text.matchAll(w)].map(m => names.get(m[1]) ?? m[1]));
}

const usedSql = new Set();
const usedWrites = new Set();
for (const path of sources(join(ROOT, 'server/src'))) {
  const feature = featureOf('server', path);
  if (path.includes('/migrations/') || path.endsWith('.entity.ts')) continue;
  const texts = literals(path);
  const name = shown(path).replace('server/src/', '');
  if (!path.endsWith('.queries.ts') && texts.some(t => SQL.test(t))) {
    usedSql.add(name);
    if (!(name in SQL_FILES))
      offences.push(
        `${shown(path)}: SQL stands in *.queries.ts, or in a file that scripts/sql-files.json names with its reason`,
      );
  }
  const written = new Set(texts.flatMap(t => [...t.matchAll(WRITES)].map(m => m[1])));
  for (const table of writtenByEntity(textOf(path))) written.add(table);
  for (const table of written) {
    const owner = ownerOf.get(table);
    if (!owner || owner === feature || WHOLE.has(feature) || MAKES_ALL.has(feature) || GROUND.has(owner))
      continue;
    usedWrites.add(`${name} ${table}`);
    if (!(`${name} ${table}` in FOREIGN_WRITES))
      offences.push(`${shown(path)}: ${table} belongs to ${owner}; ask ${owner} to write it`);
  }
}
for (const name of Object.keys(SQL_FILES))
  if (!usedSql.has(name))
    offences.push(`scripts/sql-files.json: ${name} holds no SQL any more; take it off the list`);
for (const name of Object.keys(FOREIGN_WRITES))
  if (!usedWrites.has(name))
    offences.push(`scripts/sql-files.json: ${name} is not written any more; take it off the list`);

for (const o of offences) console.error(o);
console.log(
  offences.length === 0
    ? `Layers look down only; ${usedSql.size} files beside *.queries.ts hold SQL, ${usedWrites.size} write a foreign table.`
    : `${offences.length} offences.`,
);
process.exit(offences.length === 0 ? 0 : 1);
