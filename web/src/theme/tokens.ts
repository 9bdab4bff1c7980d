/** The colours of a page by what they mean; every colour on screen is one of these. */
export interface Tokens {
  /** The page itself, and what lies on it: panels, bands, rows under the pointer, the row of the cursor. */
  ground: string;
  panel: string;
  soft: string;
  hover: string;
  cursor: string;
  /** Text, and text of less weight. */
  ink: string;
  quiet: string;
  /** Hairlines between things, and the edges of what can be filled in or pressed. */
  line: string;
  edge: string;
  /** The act that comes next, text on it, and the same colour as text. */
  act: string;
  onAct: string;
  actText: string;
  /** States: done, at risk, stopped or wrong, information; always beside a word and a sign. */
  done: string;
  onDone: string;
  risk: string;
  onRisk: string;
  wrong: string;
  onWrong: string;
  info: string;
  /** Grounds of an answer to a scan. */
  doneGround: string;
  wrongGround: string;
  infoGround: string;
  /** The band on top of the desk. */
  band: string;
  onBand: string;
  quietOnBand: string;
  /** Parts of a departure's bar. */
  barListed: string;
  barPicked: string;
  barPacked: string;
  onBarPacked: string;
  focus: string;
}

const desk: Tokens = {
  ground: '#faf9f5',
  panel: '#ffffff',
  soft: '#e8ebe8',
  hover: '#f1f2ee',
  cursor: '#fdf1ea',
  ink: '#17212b',
  quiet: '#46545f',
  line: '#d5d9d6',
  edge: '#76838b',
  act: '#b9481b',
  onAct: '#ffffff',
  actText: '#a83f16',
  done: '#1f6f5c',
  onDone: '#ffffff',
  risk: '#8a5a00',
  onRisk: '#ffffff',
  wrong: '#a3262a',
  onWrong: '#ffffff',
  info: '#27608b',
  doneGround: '#e4efe9',
  wrongGround: '#f7e6e4',
  infoGround: '#e3ecf2',
  band: '#17212b',
  onBand: '#faf9f5',
  quietOnBand: '#c9d0d4',
  barListed: '#cfd5d4',
  barPicked: '#b9c4c6',
  barPacked: '#4b5f6e',
  onBarPacked: '#ffffff',
  focus: '#b9481b',
};

const dark: Tokens = {
  ground: '#10181f',
  panel: '#1a2631',
  soft: '#22303b',
  hover: '#1f2c36',
  cursor: '#2a2420',
  ink: '#faf9f5',
  quiet: '#a9b4bb',
  line: '#2b3843',
  edge: '#7a8791',
  act: '#e2632b',
  onAct: '#10181f',
  actText: '#f08a5a',
  done: '#2fa184',
  onDone: '#10181f',
  risk: '#e9b552',
  onRisk: '#10181f',
  wrong: '#f0807a',
  onWrong: '#10181f',
  info: '#7fb7e6',
  doneGround: '#0c2621',
  wrongGround: '#3a1618',
  infoGround: '#132839',
  band: '#0a1015',
  onBand: '#faf9f5',
  quietOnBand: '#a9b4bb',
  barListed: '#46545f',
  barPicked: '#5b6a75',
  barPacked: '#c9d0d4',
  onBarPacked: '#10181f',
  focus: '#7fb7e6',
};

/** High contrast by day: text at 7:1 and more, edges at 4.5:1 and more. */
const deskContrast: Tokens = {
  ...desk,
  ground: '#ffffff',
  soft: '#e6e6e6',
  hover: '#ececec',
  cursor: '#fff0e0',
  ink: '#000000',
  quiet: '#2a333a',
  line: '#6b747a',
  edge: '#3c464d',
  act: '#8a2f0c',
  actText: '#7a2808',
  done: '#0c4b3c',
  risk: '#5c3b00',
  wrong: '#7d0f14',
  info: '#0f4266',
  band: '#000000',
  onBand: '#ffffff',
  quietOnBand: '#e6e6e6',
  barPacked: '#2f3f4b',
  focus: '#7a2808',
};

/** High contrast in the dark. */
const darkContrast: Tokens = {
  ...dark,
  ground: '#000000',
  panel: '#0d1216',
  soft: '#1b2329',
  hover: '#161d23',
  ink: '#ffffff',
  quiet: '#d3dade',
  line: '#77848d',
  edge: '#a9b4bb',
  act: '#ff8a50',
  onAct: '#000000',
  actText: '#ffa477',
  done: '#5fd6b6',
  onDone: '#000000',
  risk: '#ffd27a',
  onRisk: '#000000',
  wrong: '#ffa9a4',
  onWrong: '#000000',
  info: '#a8d4f7',
  band: '#000000',
  onBand: '#ffffff',
  quietOnBand: '#d3dade',
  barListed: '#2b3843',
  barPicked: '#3f4d58',
  focus: '#a8d4f7',
};

/** The four sets: by day or dark, plain or of high contrast. */
export const TOKENS = { desk, dark, deskContrast, darkContrast };
export type TokenSet = keyof typeof TOKENS;

/** Which colours stand on which, and the least contrast WCAG 2.2 asks between them: 4.5 for text (1.4.3), 3 for edges and signs (1.4.11); 7 and 4.5 in high contrast (1.4.6). */
export const PAIRS: readonly [fore: keyof Tokens, back: keyof Tokens, what: 'text' | 'edge'][] = [
  ...(['ground', 'panel', 'soft', 'hover', 'cursor'] as const).flatMap(
    back =>
      [
        ['ink', back, 'text'],
        ['quiet', back, 'text'],
        ['actText', back, 'text'],
        ['risk', back, 'text'],
        ['wrong', back, 'text'],
        ['done', back, back === 'ground' || back === 'panel' ? 'text' : 'edge'],
        ['info', back, back === 'ground' || back === 'panel' ? 'text' : 'edge'],
      ] as [keyof Tokens, keyof Tokens, 'text' | 'edge'][],
  ),
  ['edge', 'ground', 'edge'],
  ['edge', 'panel', 'edge'],
  ['focus', 'ground', 'edge'],
  ['focus', 'panel', 'edge'],
  ['onAct', 'act', 'text'],
  ['onDone', 'done', 'text'],
  ['onRisk', 'risk', 'text'],
  ['onWrong', 'wrong', 'text'],
  ['onBand', 'band', 'text'],
  ['quietOnBand', 'band', 'text'],
  ['ink', 'doneGround', 'text'],
  ['ink', 'wrongGround', 'text'],
  ['ink', 'infoGround', 'text'],
  ['ink', 'barListed', 'text'],
  ['ink', 'barPicked', 'text'],
  ['onBarPacked', 'barPacked', 'text'],
];

/** Sizes that are not a token of colour: text in rem (1 rem follows the person's size), the corner of all boxes. */
export const SIZES = {
  fine: '0.8125rem',
  small: '0.875rem',
  body: '0.9375rem',
  lead: '1.0625rem',
  head: '1.375rem',
  corner: 6,
};
/** Sizes of all text that a person can choose, in percent. */
export const TEXT_SIZES = [100, 125, 150] as const;

/** What totes are made in, as they look on a dark screen and a light one; the word always stands beside it. */
export const toteColours: Readonly<Record<string, string>> = {
  grey: '#8e9aa1',
  blue: '#3f86c4',
  green: '#3a9a6f',
  yellow: '#e0b93a',
  red: '#cf4b45',
  white: '#f4f4ef',
};
