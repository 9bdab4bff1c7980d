import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect, test } from 'vitest';

/** What the check of the front says of each of some files, and whether it lets them through. */
function said(files: Record<string, string>): { lines: (name: string) => string[]; passes: boolean } {
  const folder = mkdtempSync(join(tmpdir(), 'auk-front-'));
  for (const [name, text] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), text);
  }
  const run = spawnSync(process.execPath, ['scripts/check-front.mjs', folder], { encoding: 'utf8' });
  rmSync(folder, { recursive: true });
  const all = run.stdout.replaceAll(`${folder}/`, '').split('\n');
  return {
    lines: name => all.filter(l => l.startsWith(name)).map(l => l.slice(name.length + 1)),
    passes: run.status === 0,
  };
}

const EXPRESSION = ['`loud ', '{x}`'].join('$');
const JSX: [jsx: string, words: string][] = [
  ['<button>x</button>', 'a raw <button>'],
  ['<select />', 'a raw <select>'],
  ['<input />', 'a raw <input>'],
  ['<textarea />', 'a raw <textarea>'],
  ['<table><tbody /></table>', 'a raw <table>'],
  ['<form />', 'a raw <form>'],
  ['<dialog open />', 'a raw <dialog>'],
  ['<Stack component="form" />', 'a raw <form>'],
  ["<Box component={'table'} />", 'a raw <table>'],
  ['<p className="loud" />', 'the global class name “loud”'],
  [`<p className={${EXPRESSION}} />`, 'the global class name “loud”'],
  ["<p className={on ? 'loud' : ''} />", 'the global class name “loud”'],
  ["<p style={{ color: '#a3262a' }} />", 'the colour #a3262a'],
  ["<p style={{ background: 'white' }} />", 'the colour white'],
  ['<rect fill="red" />', 'the colour red'],
  ["<p style={{ borderColor: 'rgb(1, 2, 3)' }} />", 'the colour rgb('],
];
const CODE: [code: string, words: string][] = [
  ["const B = styled('button')({});", 'a raw <button>'],
  ["const c = createElement('table', null);", 'a raw <table>'],
  ['void client.invalidateQueries();', 'asks everything again'],
  ["useQuery({ queryKey: ['orders'], queryFn });", 'makes a key of its own'],
];

test('raw elements, colours, global class names, keys and questions of one’s own are refused, each by its line', () => {
  const planted = Object.fromEntries([
    ...JSX.map(([jsx], i) => [
      `orders/J${i}.tsx`,
      `const [on, x] = [1, 2];\nexport const P = () => ${jsx};\n`,
    ]),
    ...CODE.map(([code], i) => [`orders/c${i}.ts`, `\n${code}\n`]),
  ]) as Record<string, string>;
  const { lines, passes } = said(planted);
  expect(passes).toBe(false);
  const told: [string, string[]][] = [
    ...JSX.map(([jsx], i): [string, string[]] => [jsx, lines(`orders/J${i}.tsx`)]),
    ...CODE.map(([code], i): [string, string[]] => [code, lines(`orders/c${i}.ts`)]),
  ];
  expect(told).toEqual([...JSX, ...CODE].map(([text, words]) => [text, [expect.stringContaining(words)]]));
  expect(told.every(([, found]) => found[0]!.startsWith('2 '))).toBe(true);
});

test('the server is asked in the api.ts of a feature and nowhere else', () => {
  const asks = "import { get } from '../api.js';\nexport const x = get;\n";
  const { lines } = said({
    'api.ts': 'export const get = () => 1;\n',
    'orders/api.ts': asks,
    'orders/asks.ts': asks,
  });
  expect(lines('orders/api.ts')).toEqual([]);
  expect(lines('orders/asks.ts')).toEqual([
    '1 asks the server by get(); say what is asked in the api.ts of its feature.',
  ]);
});

test('sheets of styles are modules, with the colours of the theme, and every class is had and named', () => {
  const { lines } = said({
    'orders/orders.css': '.a { color: var(--ink); }\n',
    'orders/a.module.css': '.a { color: #fff; }\n.c { background: white; }\n',
    'orders/A.tsx':
      "import css from './a.module.css';\nexport const A = () => <p className={css.b + css.a} />;\n",
  });
  expect(lines('orders/orders.css')).toEqual([
    '1 is a global style sheet; write a .module.css beside its part.',
  ]);
  expect(lines('orders/a.module.css')).toEqual([
    '1 has the colour #fff; colours stand in the theme alone.',
    '2 has the colour white; colours stand in the theme alone.',
    'has the class c, which nothing names.',
  ]);
  expect(lines('orders/A.tsx')).toEqual(['2 names the class b, which orders/a.module.css has not.']);
});

test('what is made of parts passes', () => {
  const { passes } = said({
    'orders/a.module.css': '/* As the theme says: no #fff. */\n.a { color: var(--ink); }\n',
    'orders/A.tsx':
      'import css from \'./a.module.css\';\nexport const A = () => <Button component={Link} to="#12" className={css.a}>No. #12 is red</Button>;\n',
  });
  expect(passes).toBe(true);
});
