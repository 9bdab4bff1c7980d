/** Kinds of facts: yes or no, a text, a whole number, money in minor units of the house's currency. */
export type FactKind = 'flag' | 'text' | 'count' | 'money';

/** A fact of a product: its key in code and database, its words on screen, its kind, and words by which a file's heading names it. */
export interface FactSpec {
  key: string;
  words: string;
  kind: FactKind;
  headings: string[];
  most?: number;
}

/** The facts of a product beyond name, stage, weight and size. One list serves pages, files and the server's check. */
export const PRODUCT_FACTS: readonly FactSpec[] = [
  { key: 'category', words: 'category', kind: 'text', most: 40, headings: ['category', 'group'] },
  { key: 'fragile', words: 'fragile', kind: 'flag', headings: ['fragile'] },
  { key: 'upright', words: 'this side up', kind: 'flag', headings: ['thissideup', 'upright'] },
  { key: 'foldable', words: 'may be folded', kind: 'flag', headings: ['foldable', 'maybefolded'] },
  { key: 'sharp', words: 'sharp', kind: 'flag', headings: ['sharp'] },
  { key: 'liquid', words: 'liquid', kind: 'flag', headings: ['liquid'] },
  { key: 'powder', words: 'powder', kind: 'flag', headings: ['powder'] },
  { key: 'battery', words: 'battery', kind: 'flag', headings: ['battery'] },
  { key: 'hazardous', words: 'hazardous', kind: 'flag', headings: ['hazardous', 'hazmat'] },
  {
    key: 'serials',
    words: 'serial numbers wanted',
    kind: 'flag',
    headings: ['serialnumberswanted', 'serials'],
  },
  { key: 'lots', words: 'lot wanted', kind: 'flag', headings: ['lotwanted', 'lots'] },
  { key: 'expiry', words: 'expiry wanted', kind: 'flag', headings: ['expirywanted', 'expires'] },
  {
    key: 'optional',
    words: 'may be left out',
    kind: 'flag',
    headings: ['maybeleftout', 'optional', 'insert'],
  },
  { key: 'alone', words: 'must ship alone', kind: 'flag', headings: ['mustshipalone', 'shipsalone'] },
  {
    key: 'supplier',
    words: 'shipped by the supplier',
    kind: 'flag',
    headings: ['shippedbythesupplier', 'suppliership'],
  },
  {
    key: 'supplierName',
    words: 'supplier',
    kind: 'text',
    most: 80,
    headings: ['supplier', 'suppliername', 'vendor'],
  },
  {
    key: 'supplierCode',
    words: "supplier's code",
    kind: 'text',
    most: 60,
    headings: ['supplierscode', 'suppliercode', 'suppliersku'],
  },
  {
    key: 'supplierMinor',
    words: "supplier's price",
    kind: 'money',
    headings: ['suppliersprice', 'supplierprice', 'purchaseprice'],
  },
  {
    key: 'leastStock',
    words: 'least stock',
    kind: 'count',
    most: 1_000_000,
    headings: ['leaststock', 'minimumstock', 'minstock'],
  },
  { key: 'valueMinor', words: 'value', kind: 'money', headings: ['value', 'declaredvalue', 'cost'] },
  {
    key: 'customsCode',
    words: 'customs code',
    kind: 'text',
    most: 14,
    headings: ['customscode', 'harmonisedcode', 'tariffcode'],
  },
  {
    key: 'origin',
    words: 'country of origin',
    kind: 'text',
    most: 2,
    headings: ['countryoforigin', 'origin'],
  },
  {
    key: 'customsWords',
    words: 'words for customs',
    kind: 'text',
    most: 60,
    headings: ['wordsforcustoms', 'customsdescription'],
  },
  { key: 'unNumber', words: 'UN number', kind: 'text', most: 7, headings: ['unnumber'] },
  { key: 'hazardClass', words: 'hazard class', kind: 'text', most: 8, headings: ['hazardclass'] },
  {
    key: 'hazardName',
    words: 'proper shipping name',
    kind: 'text',
    most: 80,
    headings: ['propershippingname', 'hazardname'],
  },
  {
    key: 'service',
    words: 'preferred service',
    kind: 'text',
    most: 40,
    headings: ['preferredservice', 'service'],
  },
  {
    key: 'box',
    words: 'preferred box',
    kind: 'text',
    most: 20,
    headings: ['preferredbox', 'box', 'package'],
  },
  {
    key: 'perParcel',
    words: 'most units a parcel',
    kind: 'count',
    most: 10_000,
    headings: ['mostunitsaparcel', 'unitsperparcel'],
  },
  {
    key: 'serialForm',
    words: 'form of serial numbers',
    kind: 'text',
    most: 40,
    headings: ['formofserialnumbers', 'serialform'],
  },
  {
    key: 'warning',
    words: 'warning at packing',
    kind: 'text',
    most: 200,
    headings: ['warningatpacking', 'warning'],
  },
  {
    key: 'question',
    words: 'question at packing',
    kind: 'text',
    most: 200,
    headings: ['questionatpacking', 'question'],
  },
];

export type ProductStage = 'Unproven' | 'Live' | 'Retired';
export type FactValue = string | number | boolean | null;

/** What tells whether a product lacks something. Lengths in tenths of a millimetre, weights in milligrams. */
export interface FactsHeld {
  kind: 'piece' | 'kit' | 'bundle';
  stage: ProductStage;
  weightMg: number | null;
  hasSize: boolean;
  barcodes: number;
  parts: number;
  picture: boolean;
  facts: Record<string, FactValue | undefined>;
}

/** A fact that is missing and what it costs or stops, most serious first. */
export interface MissingFact {
  fact: string;
  costs: string;
  serious: boolean;
}

/** Names what is missing of a product where that stops orders or costs money. A retired product lacks nothing. */
export function missingFacts(p: FactsHeld): MissingFact[] {
  if (p.stage === 'Retired') return [];
  const stocked = p.kind !== 'bundle';
  const found: [missing: boolean, fact: string, costs: string, serious: boolean][] = [
    [stocked && p.barcodes === 0, 'code', 'no code: its orders are stopped until it can be scanned', true],
    [p.kind !== 'piece' && p.parts === 0, 'recipe', 'no recipe: it cannot be made or gathered', true],
    [
      stocked && p.weightMg === null,
      'weight',
      'no weight: rates are guesses, wrong contents pass the scale',
      true,
    ],
    [stocked && !p.hasSize, 'size', 'no size: boxes cannot be proposed', true],
    [
      stocked && (!p.facts.customsCode || !p.facts.origin),
      'customs',
      'no customs code and origin: orders abroad are stopped',
      false,
    ],
    [stocked && p.facts.valueMinor == null, 'value', 'no value: lost parcels cannot be claimed', false],
    [stocked && !p.picture, 'picture', 'no picture: pickers see only the name', false],
  ];
  return found.filter(([is]) => is).map(([, fact, costs, serious]) => ({ fact, costs, serious }));
}

/** The stage a product has by itself: Unproven while nothing of it can be scanned, else Live; Retired is a person's word and stays. A bundle is proven by its parts. */
export function ownStage(p: {
  kind: FactsHeld['kind'];
  stage: ProductStage;
  barcodes: number;
}): ProductStage {
  if (p.stage === 'Retired') return 'Retired';
  return p.kind !== 'bundle' && p.barcodes === 0 ? 'Unproven' : 'Live';
}
