// rules.book: 200 rules on 10,000 orders, with which rule decided what; the floor does the same by closures that were written by hand, without.
import { compileBook, FIELD_NAMES, fieldSpec, runBook, seeded } from '@auk/core';

const ORDERS = 10_000;
const RULES = [50, 100, 200];
const GOAL = 2;
/** Twice the rules, and what noise there is. */
const GROWTH = 2.1;
const ROUNDS = 7;
const COUNTRIES = ['us', 'us', 'us', 'us', 'ca', 'de', 'nl'];
const TAGS = ['dear', 'gift', 'heavy', 'large'];

/** Kinds of rules: as the book says them, and as one would write them by hand. */
const KINDS = [
  n => ({
    when: { field: 'weight', is: 'over', value: `${20 + (n % 60)} lb` },
    do: [{ do: 'box', with: `B${n % 6}` }],
    byHand: (o, s) => {
      if (o.weight > Math.round((20 + (n % 60)) * 453592.37)) s.box = `B${n % 6}`;
    },
  }),
  n => ({
    when: {
      all: [
        { field: 'country', is: 'one of', value: ['ca', 'de'] },
        { field: 'units', is: 'at least', value: n % 9 },
      ],
    },
    do: [{ do: 'send by', with: `heron s${n % 5}` }],
    byHand: (o, s) => {
      if ((o.country === 'ca' || o.country === 'de') && o.units >= n % 9) s.service = `heron s${n % 5}`;
    },
  }),
  n => ({
    when: {
      any: [
        { field: 'tags', is: 'has any of', value: [TAGS[n % 4]] },
        { field: 'value', is: 'over', value: `${50 + n}.00` },
      ],
    },
    do: [{ do: 'signature' }],
    byHand: (o, s) => {
      if (s.tags.includes(TAGS[n % 4]) || o.value > (50 + n) * 100) s.signature = true;
    },
  }),
  n => ({
    when: {
      all: [
        { field: 'residential', is: 'yes' },
        { field: 'postcode', is: 'begins with', value: [String(n % 100)] },
      ],
    },
    do: [{ do: 'tag', with: TAGS[n % 4] }],
    byHand: (o, s) => {
      if (o.residential && o.postcode.startsWith(String(n % 100)) && !s.tags.includes(TAGS[n % 4]))
        s.tags = [...s.tags, TAGS[n % 4]];
    },
  }),
];

function orders() {
  const random = seeded(4);
  const one = all => all[Math.floor(random() * all.length)];
  return Array.from({ length: ORDERS }, () => ({
    country: one(COUNTRIES),
    postcode: String(10_000 + Math.floor(random() * 80_000)),
    residential: random() < 0.7,
    units: 1 + Math.floor(random() * 12),
    weight: Math.floor(random() * 60e6),
    value: Math.floor(random() * 30_000),
    tags: random() < 0.2 ? [one(TAGS)] : [],
  }));
}

const factsOf = o =>
  Object.fromEntries(FIELD_NAMES.map(f => [f, o[f] ?? (fieldSpec(f).kind === 'words' ? [] : null)]));

const best = work => {
  let ms = Infinity;
  for (let i = 0; i < ROUNDS; i++) {
    const from = performance.now();
    work();
    ms = Math.min(ms, performance.now() - from);
  }
  return ms;
};

export function* rulesBook() {
  const all = orders();
  const grounds = all.map(o => ({ facts: factsOf(o), lines: [], offers: [], promised: null }));
  let before = 0;
  for (const n of RULES) {
    const kinds = Array.from({ length: n }, (_, i) => KINDS[i % KINDS.length](i));
    const rows = kinds.map((k, i) => ({
      id: `r${i}`,
      name: '',
      note: '',
      on: true,
      at: 'clear',
      when: k.when,
      do: k.do,
      stop: false,
    }));
    const book = compileBook({ rows }, 'clear', 'USD');
    const byHand = o => {
      const s = { service: null, box: null, signature: null, tags: o.tags };
      for (const k of kinds) k.byHand(o, s);
      return s;
    };
    const value = best(() => grounds.map(g => runBook(book, g)));
    const floor = best(() => all.map(byHand));
    all.forEach((o, i) => {
      const { fields } = runBook(book, grounds[i]);
      const { service, box, signature } = byHand(o);
      const same =
        (fields.service?.value ?? null) === service &&
        (fields.box?.value ?? null) === box &&
        (fields.signature?.value ?? null) === signature;
      if (!same) throw new Error(`Order ${i} is decided otherwise.`);
    });
    const ratio = value / floor;
    // The ratio is wanted of the largest book; those before it show that time grows no faster than rules do.
    const row = { n: `${n} rules, ${ORDERS}`, value, unit: 'ms', floor, ratio };
    if (n === RULES.at(-1)) yield { ...row, goal: `ratio <= ${GOAL}`, holds: ratio <= GOAL };
    else if (before > 0)
      yield { ...row, goal: `<= ${GROWTH} x that of ${n / 2}`, holds: value <= GROWTH * before };
    before = value;
  }
}
