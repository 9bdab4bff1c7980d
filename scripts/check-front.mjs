// Part of npm run lint: the front is made of MUI's parts and the house's own, in the theme's colours, with class names of modules.
// Refused, in the folder that is given or in web/src, are raw elements that a part stands for, colours outside the theme, global class names, and asking everything again.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';

const WEB = process.argv[2] ?? 'web/src';
/** Where the server is asked; only an api.ts does so. Tests ask none. */
const DOOR = join(WEB, 'api.js');
const TESTS = /\.test\.tsx?$/;

/** Files that may, each with its reason. */
const MAY = {
  'parts/Form.tsx': { form: 'the one form of the house' },
  'asked.ts': { ask: 'maps topics to keys, in one place' },
  'scans/theOutbox.ts': { ask: 'sends what is in the outbox, wherever it goes' },
  'parts/picture.tsx': { colour: 'drawings of goods, with the colours of cardboard and wool in every theme' },
  'theme/tokens.ts': { colour: 'the colours of the house' },
  'theme/contrast.test.ts': { colour: 'values of the standard' },
};

const RAW = new Set(['button', 'select', 'input', 'textarea', 'table', 'dialog', 'form']);
const NAMED = new Set(
  'black white red green blue yellow orange purple gray grey silver maroon olive lime navy teal aqua fuchsia pink brown gold cyan magenta'.split(
    ' ',
  ),
);
const COLOUR =
  /#(?:[0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})\b|\b(?:rgba?|hsla?|oklch|oklab|lab|lch|hwb|color)\(/i;
/** Properties whose words may be colours. */
const COLOURED =
  /^(?:color|background|backgroundColor|bgcolor|fill|stroke|border.*|outline.*|caretColor|stopColor)$/;

const breaches = [];
/** What was allowed and done; an entry that nobody needs any more has to go. */
const used = new Set();
/** Of each module of styles: its classes, those that are named in code, and whether some are named by a value. */
const modules = new Map();

for (const file of filesOf(WEB)) {
  const name = relative(WEB, file).replaceAll('\\', '/');
  const text = readFileSync(file, 'utf8');
  const may = MAY[name] ?? (name.endsWith('/api.ts') ? { ask: 'what is asked of the server' } : {});
  const breach = (kind, at, what) => {
    if (may[kind]) {
      used.add(`${name} ${kind}`);
      return;
    }
    const line = text.slice(0, at).split('\n').length;
    breaches.push(`${file}:${line} ${what}`);
  };
  if (file.endsWith('.css')) checkSheet(name, text, breach);
  else checkCode(file, text, breach);
}

for (const [name, kinds] of Object.entries(MAY))
  for (const kind of Object.keys(kinds))
    if (existsSync(join(WEB, name)) && !used.has(`${name} ${kind}`))
      breaches.push(
        `${join(WEB, name)} may have “${kind}” and does not; take it off the list in this script.`,
      );

for (const [file, m] of modules) {
  const classes = new Set(
    [
      ...readFileSync(file, 'utf8')
        .replace(/\/\*[\s\S]*?\*\//g, '')
        .matchAll(/\.([a-zA-Z][\w-]*)(?=[^{}]*\{)/g),
    ].map(c => c[1]),
  );
  for (const [name, at] of m.named)
    if (!classes.has(name)) breaches.push(`${at} names the class ${name}, which ${file} has not.`);
  if (!m.byValue)
    for (const c of classes)
      if (!m.named.has(c)) breaches.push(`${file} has the class ${c}, which nothing names.`);
}
for (const b of breaches) console.log(b);
if (breaches.length > 0) {
  console.log(`The front: ${breaches.length} breaches.`);
  process.exit(1);
}
console.log(
  `The front is made of parts; ${Object.keys(MAY).length} files may do otherwise, each with its reason.`,
);

function checkSheet(name, text, breach) {
  if (!name.endsWith('.module.css'))
    breach('sheet', 0, 'is a global style sheet; write a .module.css beside its part.');
  if (/:global\b/.test(text)) breach('global', text.search(/:global\b/), 'has a global class name.');
  const bare = text.replace(/\/\*[\s\S]*?\*\//g, c => ' '.repeat(c.length));
  const found = COLOUR.exec(bare);
  if (found) breach('colour', found.index, `has the colour ${found[0]}; colours stand in the theme alone.`);
  for (const m of bare.matchAll(/:\s*([^;{}]*);/g))
    for (const word of m[1].split(/[\s,()]+/))
      if (NAMED.has(word))
        breach('colour', m.index, `has the colour ${word}; colours stand in the theme alone.`);
}

function checkCode(file, text, breach) {
  const source = ts.createSourceFile(
    file,
    text,
    ts.ScriptTarget.Latest,
    true,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const sheets = new Map();
  const raw = (node, tag) => {
    if (tag && RAW.has(tag))
      breach(tag, node.getStart(), `has a raw <${tag}>; use the part that stands for it.`);
  };
  const told = { breach, raw };
  const visit = node => {
    if (ts.isJsxOpeningElement(node) || ts.isJsxSelfClosingElement(node)) raw(node, node.tagName.getText());
    if (ts.isImportDeclaration(node) && node.moduleSpecifier.text.endsWith('.module.css')) {
      const module = join(dirname(file), node.moduleSpecifier.text);
      if (!modules.has(module)) modules.set(module, { named: new Map(), byValue: false });
      sheets.set(node.importClause.name.text, modules.get(module));
    }
    if (
      ts.isImportDeclaration(node) &&
      !TESTS.test(file) &&
      node.moduleSpecifier.text.endsWith('/api.js') &&
      join(dirname(file), node.moduleSpecifier.text) === DOOR
    )
      for (const n of node.importClause?.namedBindings?.elements ?? [])
        if (['get', 'post', 'send', 'download'].includes(n.name.text))
          breach(
            'ask',
            node.getStart(),
            `asks the server by ${n.name.text}(); say what is asked in the api.ts of its feature.`,
          );
    if (ts.isPropertyAccessExpression(node) && sheets.has(node.expression.getText()))
      sheets
        .get(node.expression.getText())
        .named.set(node.name.text, `${file}:${text.slice(0, node.getStart()).split('\n').length}`);
    if (ts.isElementAccessExpression(node) && sheets.has(node.expression.getText()))
      sheets.get(node.expression.getText()).byValue = true;
    if (ts.isJsxAttribute(node)) checkAttribute(node, told);
    if (ts.isCallExpression(node)) checkCall(node, told);
    if (ts.isPropertyAssignment(node)) checkProperty(node, told);
    if (ts.isStringLiteralLike(node) || ts.isTemplateHead(node) || ts.isTemplateMiddleOrTemplateTail(node)) {
      const found = COLOUR.exec(node.text);
      if (found && looksLikeColour(node.text, found))
        breach('colour', node.getStart(), `has the colour ${found[0]}; colours stand in the theme alone.`);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
}

function checkAttribute(node, { breach, raw }) {
  const name = node.name.getText();
  const value = node.initializer;
  const words =
    value && ts.isStringLiteral(value)
      ? value.text
      : value && ts.isJsxExpression(value) && value.expression && ts.isStringLiteralLike(value.expression)
        ? value.expression.text
        : null;
  // A component="form" or a label that is a file's is a raw element in disguise.
  if (name === 'component') raw(node, words === 'button' ? null : words);
  if (name === 'className' && words)
    breach('class', node.getStart(), `has the global class name “${words}”.`);
  if (name === 'className' && value && ts.isJsxExpression(value) && value.expression)
    checkClass(value.expression, breach);
  if (words && COLOURED.test(name) && NAMED.has(words))
    breach('colour', node.getStart(), `has the colour ${words}; colours stand in the theme alone.`);
}

/** Of what a class name is put together: words in it must not be class names. */
function checkClass(expression, breach) {
  if (ts.isStringLiteralLike(expression) && expression.text.trim() !== '')
    breach('class', expression.getStart(), `has the global class name “${expression.text.trim()}”.`);
  if (ts.isTemplateExpression(expression)) {
    const words = [expression.head.text, ...expression.templateSpans.map(s => s.literal.text)]
      .join(' ')
      .trim();
    if (words !== '') breach('class', expression.getStart(), `has the global class name “${words}”.`);
    for (const span of expression.templateSpans) checkClass(span.expression, breach);
  }
  if (ts.isConditionalExpression(expression)) {
    checkClass(expression.whenTrue, breach);
    checkClass(expression.whenFalse, breach);
  }
  if (ts.isParenthesizedExpression(expression)) checkClass(expression.expression, breach);
  if (ts.isBinaryExpression(expression)) checkClass(expression.right, breach);
  if (ts.isArrayLiteralExpression(expression)) for (const e of expression.elements) checkClass(e, breach);
  if (ts.isCallExpression(expression) && ts.isPropertyAccessExpression(expression.expression))
    checkClass(expression.expression.expression, breach);
}

function checkCall(node, { breach, raw }) {
  const called = node.expression.getText();
  const first = node.arguments[0];
  if (
    /(^|\.)(styled|createElement|jsx)$/.test(called) &&
    first &&
    ts.isStringLiteralLike(first) &&
    first.text !== 'a'
  )
    raw(node, first.text);
  if (/\.invalidateQueries$/.test(called) && !first)
    breach('ask', node.getStart(), 'asks everything again; say of which topic, by changed().');
}

function checkProperty(node, { breach }) {
  const name = node.name.getText();
  if (name === 'queryKey' && ts.isArrayLiteralExpression(node.initializer))
    breach('ask', node.getStart(), 'makes a key of its own; keys stand in the api.ts of their feature.');
  if (COLOURED.test(name) && ts.isStringLiteralLike(node.initializer))
    for (const word of node.initializer.text.split(/[\s,()]+/))
      if (NAMED.has(word))
        breach('colour', node.getStart(), `has the colour ${word}; colours stand in the theme alone.`);
}

/** A colour stands alone or after a space, a comma or a bracket: `#12 of the list` in a sentence and `#/path` are none. */
function looksLikeColour(text, found) {
  const before = text[found.index - 1] ?? '';
  return found[0].endsWith('(')
    ? !/[\w-]/.test(before)
    : /^$|[\s,(:]/.test(before) && /[a-f]|^#\d{6}$|^#\d{3}$/i.test(found[0]);
}

function* filesOf(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* filesOf(path);
    else if (/\.(tsx?|css)$/.test(entry.name)) yield path;
  }
}
