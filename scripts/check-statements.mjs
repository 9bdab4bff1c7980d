// Every statement of *.queries.ts was run by a test, and every branch of those that are put together. Reads what the server's tests
// noted (server/test/statements.ts) in a folder. Prints what was never run and exits 1.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';

const [folder, root = 'server/src'] = process.argv.slice(2);
const SQL = /^\s*\(*\s*(SELECT|INSERT|UPDATE|DELETE|REPLACE|WITH)\s/;
const HOLE = '[\\s\\S]*?';

function* sources(at) {
  for (const name of readdirSync(at)) {
    const path = join(at, name);
    if (statSync(path).isDirectory()) yield* sources(path);
    else if (path.endsWith('.queries.ts')) yield path;
  }
}

const plain = text => text.replace(/\s+/g, ' ').trim();
const escaped = text => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/\s+/g, '\\s+');

const ran = new Set();
for (const name of readdirSync(folder))
  for (const line of readFileSync(join(folder, name), 'utf8').split('\n'))
    if (line) ran.add(plain(JSON.parse(line)));
if (ran.size === 0) {
  console.error(`No statements were noted in ${folder}.`);
  process.exit(1);
}

/** What a hole of a template may be: the texts of a condition, each to be seen, or anything. */
function choices(expression) {
  if (ts.isParenthesizedExpression(expression)) return choices(expression.expression);
  if (!ts.isConditionalExpression(expression)) return null;
  const branches = [expression.whenTrue, expression.whenFalse];
  return branches.map(b => (ts.isStringLiteralLike(b) ? escaped(b.text) : HOLE));
}

/** The forms that a text of SQL may take, one for each branch of each of its conditions. */
function forms(node) {
  if (ts.isStringLiteralLike(node)) return [escaped(node.text)];
  const heads = [node.head.text, ...node.templateSpans.map(s => s.literal.text)].map(escaped);
  const holes = node.templateSpans.map(s => choices(s.expression));
  const form = pick => heads.map((h, i) => (i === 0 ? h : `${pick(i - 1)}${h}`)).join('');
  const open = holes.flatMap((h, i) => (h ? [i] : []));
  if (open.length === 0) return [form(() => HOLE)];
  return open.flatMap(i => holes[i].map(branch => form(k => (k === i ? branch : HOLE))));
}

const never = [];
let count = 0;
for (const path of sources(root)) {
  const source = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true);
  const visit = node => {
    const text = ts.isStringLiteralLike(node)
      ? node.text
      : ts.isTemplateExpression(node)
        ? node.head.text
        : null;
    if (text !== null && SQL.test(text))
      for (const form of forms(node)) {
        count++;
        const found = new RegExp(form.replace(/(\\s\+){2,}/g, '\\s+').replace(/^\\s\+|\\s\+$/g, ''));
        if (![...ran].some(s => found.test(s)))
          never.push(
            `${path}:${source.getLineAndCharacterOfPosition(node.getStart()).line + 1}: ${plain(node.getText()).slice(0, 160)}`,
          );
      }
    ts.forEachChild(node, visit);
  };
  visit(source);
}
for (const line of new Set(never)) console.error(line);
console.log(`${count} statements and branches in *.queries.ts; ${never.length} of them no test ran.`);
process.exit(never.length === 0 ? 0 : 1);
