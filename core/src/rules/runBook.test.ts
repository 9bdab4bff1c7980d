import { describe, expect, test } from 'vitest';
import { type RuleBook, rulesOf } from './book.js';
import type { LineFacts } from './fields.js';
import { factsWith, ruleOf } from './randomBook.js';
import { compileBook, did, laterWins, type RuledOffer, type RunGround, runBook } from './runBook.js';

const bookOf = (...rows: RuleBook['rows']): RuleBook => ({ rows });
const OFFERS: RuledOffer[] = [
  { service: 'heron ground', minor: 700, arrives: '2026-12-03' },
  { service: 'redfen box', minor: 650, arrives: '2026-12-05' },
  { service: 'coldharbour dawn', minor: 2400, arrives: '2026-12-01' },
];
const ground = (more: Partial<RunGround> = {}): RunGround => ({
  facts: factsWith({}),
  lines: [],
  offers: OFFERS,
  promised: '2026-12-03',
  ...more,
});
const run = (book: RuleBook, on: RunGround = ground()) =>
  runBook(compileBook(book, 'clear', 'USD', TEMPLATES), on);
const TEMPLATES = new Map([
  ['Glass', { service: 'heron ground', box: 'B12', signature: true, declare: true as const }],
]);
const line = (more: Partial<LineFacts>): LineFacts => ({
  product: null,
  category: null,
  lineProperties: [],
  supplier: null,
  quantity: 1,
  lineWeight: null,
  pieceWeight: null,
  ...more,
});

describe('a book on one order', () => {
  test('of two rows that decide a field the later wins, and the earlier is named', () => {
    const book = bookOf(
      ruleOf('a', { do: [{ do: 'box', with: 'B1' }, { do: 'signature' }] }),
      ruleOf('b', { do: [{ do: 'box', with: 'B2' }] }),
      ruleOf('c', { do: [{ do: 'box', with: 'B3' }] }),
    );
    expect(run(book).fields).toEqual({
      box: { value: 'B3', by: 'c', over: ['a', 'b'] },
      signature: { value: true, by: 'a', over: [] },
    });
  });

  test('a row that stops ends the book, also out of a group, and says so', () => {
    const book = bookOf(
      { id: 'g', name: 'Glass', on: true, rules: [ruleOf('a', { do: [{ do: 'first' }], stop: true })] },
      ruleOf('b', { do: [{ do: 'box', with: 'B1' }] }),
    );
    expect(run(book)).toMatchObject({ acted: ['a'], stoppedBy: 'a', fields: { first: { by: 'a' } } });
  });

  test('what is off does not run, nor what stands in a group that is off, nor what has another moment', () => {
    const book = bookOf(
      ruleOf('off', { on: false, do: [{ do: 'first' }] }),
      { id: 'g', name: 'Off', on: false, rules: [ruleOf('in', { do: [{ do: 'first' }] })] },
      ruleOf('packed', { at: 'packed', do: [{ do: 'tag', with: 'x' }] }),
    );
    expect(run(book)).toMatchObject({ acted: [], fields: {} });
  });

  test('a row sees tags, boxes and services that earlier rows set, and the price and margin that follow', () => {
    const book = bookOf(
      ruleOf('send', {
        do: [
          { do: 'send by', with: 'coldharbour dawn' },
          { do: 'tag', with: 'Dear' },
        ],
      }),
      ruleOf('loss', {
        when: {
          all: [
            { field: 'margin', is: 'under', value: '-10.00' },
            { field: 'tags', is: 'has any of', value: ['dear'] },
            { field: 'carrier', is: 'one of', value: ['Coldharbour'] },
            { field: 'inTime', is: 'yes' },
          ],
        },
        do: [{ do: 'cheapest', with: ['*'] }],
      }),
    );
    const ruled = run(book, ground({ facts: factsWith({ shippingPaid: 900 }) }));
    expect(ruled.fields.service).toEqual({ value: 'heron ground', by: 'loss', over: ['send'] });
  });

  test('the cheapest in time of some is taken; of those late the earliest; none when nobody has a price', () => {
    const of = (services: string[], promised: string | null, offers = OFFERS) =>
      run(bookOf(ruleOf('a', { do: [{ do: 'cheapest', with: services }] })), ground({ promised, offers }))
        .fields.service?.value;
    expect(of(['*'], '2026-12-03')).toBe('heron ground');
    expect(of(['*'], '2026-12-09')).toBe('redfen box');
    expect(of(['redfen box', 'coldharbour dawn'], '2026-12-03')).toBe('coldharbour dawn');
    expect(of(['heron ground', 'redfen box'], '2026-11-30')).toBe('heron ground');
    expect(of(['elsewhere air'], '2026-12-03')).toBeUndefined();
    expect(of(['*'], null, [])).toBeUndefined();
  });

  test('without prices, rows that want them wait and are named; the others run', () => {
    const book = bookOf(
      ruleOf('priced', {
        when: { field: 'price', is: 'over', value: '5.00' },
        do: [{ do: 'first' }],
        stop: true,
      }),
      ruleOf('cheapest', { do: [{ do: 'cheapest', with: ['*'] }] }),
      ruleOf('plain', { do: [{ do: 'tag', with: 'x' }] }),
    );
    expect(run(book, ground({ offers: null }))).toMatchObject({
      acted: ['plain'],
      waiting: ['priced', 'cheapest'],
      stoppedBy: null,
    });
  });

  test('a template decides its service, box, signature and value; a later row only what it names', () => {
    const book = bookOf(
      ruleOf('glass', { do: [{ do: 'template', with: 'Glass' }] }),
      ruleOf('small', {
        do: [
          { do: 'box', with: 'B8' },
          { do: 'declare', with: '12.50' },
        ],
      }),
    );
    expect(run(book).fields).toEqual({
      service: { value: 'heron ground', by: 'glass', over: [] },
      box: { value: 'B8', by: 'small', over: ['glass'] },
      signature: { value: true, by: 'glass', over: [] },
      declare: { value: 1250, by: 'small', over: ['glass'] },
    });
  });

  test('each line that meets the condition has a parcel of its own; an order of its own has some lines, never all', () => {
    const heavy = { field: 'pieceWeight', is: 'over', value: '40 lb' } as const;
    const book = bookOf(ruleOf('heavy', { do: [{ do: 'own parcel', with: heavy }] }));
    const lines = [
      line({ pieceWeight: 20_000_000 }),
      line({ pieceWeight: 1_000 }),
      line({ pieceWeight: null }),
    ];
    expect(run(book, ground({ lines })).deeds).toEqual([
      { by: 'heavy', action: { do: 'own parcel', with: heavy }, lines: [0] },
    ]);
    expect(run(book, ground({ lines: lines.slice(0, 1) })).deeds).toEqual([]);
    const [rule] = rulesOf(book);
    expect(did(rule!, run(book, ground({ lines })))).toBe(true);
    expect(did(rule!, run(book, ground({ lines: lines.slice(1) })))).toBe(false);
    expect(did({ ...rule!, stop: true }, run(book, ground({ lines: lines.slice(1) })))).toBe(true);
    expect(run(book, ground({ lines: lines.slice(1) })).deeds).toEqual([]);
    const two = [lines[0]!, lines[0]!];
    expect(run(book, ground({ lines: two })).deeds[0]?.lines).toEqual([0, 1]);
    const order = bookOf(ruleOf('heavy', { do: [{ do: 'own order', with: heavy }] }));
    expect(run(order, ground({ lines })).deeds[0]?.lines).toEqual([0]);
    expect(run(order, ground({ lines: two })).deeds).toEqual([]);
  });

  test('a supplier may send all lines; a row below sees how many parcels there are', () => {
    const glass = { field: 'lineProperties', is: 'has any of', value: ['fragile'] } as const;
    const book = bookOf(
      ruleOf('apart', { do: [{ do: 'own parcel', with: glass }] }),
      ruleOf('two', {
        when: { field: 'parcels', is: 'at least', value: 2 },
        do: [{ do: 'tag', with: 'two parcels' }],
      }),
      ruleOf('all', { do: [{ do: 'supplier', with: { field: 'quantity', is: 'at least', value: 1 } }] }),
    );
    const lines = [line({ lineProperties: ['fragile'] }), line({})];
    const ruled = run(book, ground({ lines, facts: factsWith({ parcels: 1 }) }));
    expect(ruled.added).toEqual([{ by: 'two', action: { do: 'tag', with: 'two parcels' } }]);
    expect(ruled.deeds.find(d => d.by === 'all')?.lines).toEqual([0, 1]);
  });

  test('what nobody knows meets no comparison, and none of them is met by it', () => {
    const light = { field: 'weight', is: 'under', value: '1 kg' } as const;
    const book = bookOf(
      ruleOf('light', { when: light, do: [{ do: 'tag', with: 'light' }] }),
      ruleOf('not light', { when: { none: [light] }, do: [{ do: 'tag', with: 'not light' }] }),
    );
    expect(run(book).acted).toEqual(['not light']);
  });

  test('words are compared without regard to case; postcodes by how they begin; texts by what they hold', () => {
    const book = bookOf(
      ruleOf('a', { when: { field: 'country', is: 'one of', value: ['us'] }, do: [{ do: 'first' }] }),
      ruleOf('b', {
        when: { field: 'postcode', is: 'begins with', value: ['437', '430'] },
        do: [{ do: 'first' }],
      }),
      ruleOf('c', { when: { field: 'buyersNote', is: 'contains', value: ['GIFT'] }, do: [{ do: 'first' }] }),
      ruleOf('d', { when: { field: 'products', is: 'has only', value: ['SEED'] }, do: [{ do: 'first' }] }),
    );
    const facts = factsWith({
      country: 'US',
      postcode: '43701',
      buyersNote: 'a gift, please',
      products: ['SEED', 'JAR'],
    });
    expect(run(book, ground({ facts })).acted).toEqual(['a', 'b', 'c']);
  });

  test('a button runs its own rows alone, by its code', () => {
    const button = (code: string) => ({ words: code, places: ['bench'] as const, code });
    const book = bookOf(
      ruleOf('gift', { at: 'button', button: button('GIFT'), do: [{ do: 'tag', with: 'gift' }] }),
      ruleOf('hold', {
        at: 'button',
        button: button('HOLD'),
        do: [{ do: 'park', with: 'asked at the bench' }],
      }),
    );
    const pressed = runBook(compileBook(book, 'button', 'USD', new Map(), 'hold'), ground());
    expect(pressed.acted).toEqual(['hold']);
  });

  test('what a later moment decided counts, and names what it went over', () => {
    const early = run(bookOf(ruleOf('a', { do: [{ do: 'box', with: 'B1' }, { do: 'first' }] })));
    const late = run(bookOf(ruleOf('b', { do: [{ do: 'box', with: 'B2' }] })));
    expect(laterWins([early, late])).toEqual({
      box: { value: 'B2', by: 'b', over: ['a'] },
      first: { value: true, by: 'a', over: [] },
    });
  });
});
