/** What a field holds. Weights are typed with their unit, lengths too, money in the house's currency, times as "2 h". */
export type FieldKind =
  | 'count'
  | 'weight'
  | 'length'
  | 'money'
  | 'time'
  | 'choice'
  | 'words'
  | 'text'
  | 'flag';

/** How a field is compared, by what it holds. */
export const OPS = {
  number: ['is', 'over', 'under', 'at least', 'at most'],
  choice: ['one of', 'not one of'],
  words: ['has any of', 'has all of', 'has none of', 'has only'],
  text: ['one of', 'not one of', 'begins with', 'contains'],
  flag: ['yes', 'no'],
} as const;
export type Op = (typeof OPS)[keyof typeof OPS][number];

/** A field that a condition may look at: its words on the screen and in sentences, what it holds, and what it needs. */
export interface RuleField {
  words: string;
  kind: FieldKind;
  /** Of what is yes or no: the words for no. */
  no?: string;
  /** Known only where prices are. */
  priced?: true;
  /** Rows of the book change it for the rows that follow. */
  changes?: true;
}

/** All that a condition may ask of an order. The sides of its largest piece are its own; of the whole only sums are known. */
export const FIELDS = {
  channel: { words: 'channel', kind: 'choice' },
  payment: { words: 'payment', kind: 'choice' },
  value: { words: 'value', kind: 'money' },
  shippingPaid: { words: 'paid for shipping', kind: 'money' },
  serviceAsked: { words: 'promised service', kind: 'text' },
  buyer: { words: 'buyer', kind: 'text' },
  mail: { words: 'mail', kind: 'text' },
  buyersNote: { words: "buyer's note", kind: 'text' },
  country: { words: 'country', kind: 'choice' },
  region: { words: 'region', kind: 'choice' },
  postcode: { words: 'postcode', kind: 'text' },
  abroad: { words: 'goes abroad', kind: 'flag', no: 'stays in the country' },
  residential: { words: 'goes to a home', kind: 'flag', no: 'goes to a company' },
  toPoint: { words: 'goes to a pick-up point', kind: 'flag', no: 'goes to an address' },
  products: { words: 'products', kind: 'words' },
  categories: { words: 'categories', kind: 'words' },
  properties: { words: 'properties', kind: 'words' },
  lines: { words: 'lines', kind: 'count' },
  units: { words: 'units', kind: 'count' },
  weight: { words: 'weight', kind: 'weight' },
  heaviestLine: { words: 'heaviest line', kind: 'weight' },
  heaviestPiece: { words: 'heaviest piece', kind: 'weight' },
  longestSide: { words: 'longest side', kind: 'length' },
  guessed: { words: 'has a guessed size or weight', kind: 'flag', no: 'has all sizes and weights' },
  promisedIn: { words: 'time to the promised day', kind: 'time' },
  cutOffIn: { words: 'time to the cut-off', kind: 'time' },
  tags: { words: 'tags', kind: 'words', changes: true },
  parcels: { words: 'parcels', kind: 'count', changes: true },
  box: { words: 'box', kind: 'choice', changes: true },
  carrier: { words: 'carrier', kind: 'choice', changes: true },
  service: { words: 'service', kind: 'choice', changes: true },
  price: { words: 'price of the label', kind: 'money', priced: true, changes: true },
  margin: { words: 'margin on shipping', kind: 'money', priced: true, changes: true },
  inTime: { words: 'arrives in time', kind: 'flag', no: 'arrives late', priced: true, changes: true },
} as const satisfies Record<string, RuleField>;
export type Field = keyof typeof FIELDS;
export const FIELD_NAMES = Object.keys(FIELDS) as Field[];

/** All that may be asked of a single line, where an act is about some lines of an order. */
export const LINE_FIELDS = {
  product: { words: 'product', kind: 'choice' },
  category: { words: 'category', kind: 'choice' },
  lineProperties: { words: 'properties of the line', kind: 'words' },
  supplier: { words: 'supplier', kind: 'choice' },
  quantity: { words: 'quantity', kind: 'count' },
  lineWeight: { words: 'weight of the line', kind: 'weight' },
  pieceWeight: { words: 'weight of a piece', kind: 'weight' },
} as const satisfies Record<string, RuleField>;
export type LineField = keyof typeof LINE_FIELDS;

/** What is known of one field: a number in its smallest unit, a word, words, yes or no; null where nobody knows. */
export type Fact = number | string | readonly string[] | boolean | null;
export type OrderFacts = Readonly<Record<Field, Fact>>;
export type LineFacts = Readonly<Record<LineField, Fact>>;

/** A field of orders or of lines, by its name. */
export const fieldSpec = (name: string): RuleField | undefined =>
  Object.hasOwn(FIELDS, name)
    ? FIELDS[name as Field]
    : Object.hasOwn(LINE_FIELDS, name)
      ? LINE_FIELDS[name as LineField]
      : undefined;

/** How a kind of field is compared. Example: `opsOf('weight')` begins with `is`, `over`. */
export function opsOf(kind: FieldKind): readonly Op[] {
  return kind === 'choice' || kind === 'words' || kind === 'text' || kind === 'flag' ? OPS[kind] : OPS.number;
}
