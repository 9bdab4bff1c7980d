/** What a channel tells of a listing that is not linked yet. `gtin` is canonical (14 digits) or empty. */
export interface ListingFacts {
  channelSku: string;
  title: string;
  gtin: string;
}

/** What a listing is compared with: a product's SKU, name, barcodes (canonical) and the other codes it is known by. */
export interface ProposalProduct {
  id: string;
  sku: string;
  name: string;
  barcodes: readonly string[];
  otherCodes: readonly string[];
}

/** A product proposed for a listing: likeness from 0 to 1, how many units one sale takes, and the reasons in words. */
export interface Proposal {
  productId: string;
  score: number;
  units: number;
  why: string[];
}

/** From this likeness on a proposal is shown at all / is ticked when many are linked at once. */
export const PROPOSE_FROM = 0.35;
export const SURE_FROM = 0.8;

const SKU_SHARE = 0.55;
const STOP_WORDS = new Set([
  'the',
  'a',
  'of',
  'for',
  'with',
  'and',
  'in',
  'new',
  'pack',
  'pcs',
  'pair',
  'set',
]);

/** A catalogue made ready for proposing; make it once for many listings. */
export class Proposer {
  private readonly products: { product: ProposalProduct; sku: string; codes: string[]; words: Set<string> }[];
  private readonly byBarcode = new Map<string, ProposalProduct>();
  private readonly rarity = new Map<string, number>();

  constructor(products: readonly ProposalProduct[]) {
    this.products = products.map(product => ({
      product,
      sku: plainCode(product.sku),
      codes: product.otherCodes.map(plainCode),
      words: wordsOf(product.name),
    }));
    for (const p of products) for (const code of p.barcodes) this.byBarcode.set(code, p);
    const counts = new Map<string, number>();
    for (const p of this.products) for (const w of p.words) counts.set(w, (counts.get(w) ?? 0) + 1);
    for (const [w, n] of counts) this.rarity.set(w, Math.log(1 + products.length / n));
  }

  /**
   * The products most like a listing, best first, ties by SKU. An equal barcode is certain; another code of the product that equals
   * the listing's SKU nearly so; else likeness is 0.55 of the SKU's (shared pairs of characters, the channel's prefix aside) and
   * 0.45 of the title's (shared words, rare ones weighing more).
   */
  propose(listing: ListingFacts, most = 3): Proposal[] {
    const units = packUnits(listing.title);
    const sure = listing.gtin === '' ? undefined : this.byBarcode.get(listing.gtin);
    const scored = this.products.flatMap(p => this.score(listing, p) ?? []);
    return scored
      .map(s => (s.product === sure ? { ...s, score: 1, why: ['same barcode', ...s.why] } : s))
      .filter(s => s.score >= PROPOSE_FROM)
      .sort((a, b) => b.score - a.score || (a.product.sku < b.product.sku ? -1 : 1))
      .slice(0, most)
      .map(s => ({
        productId: s.product.id,
        score: s.score,
        units: packUnits(s.product.name) === units ? 1 : units,
        why: s.why,
      }));
  }

  private score(listing: ListingFacts, p: (typeof this.products)[number]) {
    const code = plainCode(listing.channelSku);
    const known = code !== '' && p.codes.includes(code);
    const sku = Math.max(0, ...skuForms(listing.channelSku).map(f => pairLikeness(f, p.sku)));
    const title = this.titleLikeness(wordsOf(listing.title), p.words);
    const score = known ? 0.95 : Math.round((SKU_SHARE * sku + (1 - SKU_SHARE) * title) * 100) / 100;
    const why = [
      ...(known ? ['known by this code'] : []),
      ...(sku >= 0.3 ? [`SKU ${Math.round(sku * 100)} % alike`] : []),
      ...(title >= 0.3 ? [`title ${Math.round(title * 100)} % alike`] : []),
    ];
    return { product: p.product, score, why };
  }

  private titleLikeness(a: Set<string>, b: Set<string>): number {
    const weight = (w: string) => this.rarity.get(w) ?? 1;
    const sum = (words: Iterable<string>) => [...words].reduce((n, w) => n + weight(w), 0);
    const both = sum([...a].filter(w => b.has(w)));
    const all = sum(a) + sum(b);
    return all === 0 ? 0 : (2 * both) / all;
  }
}

/** How many units one sale of a listing means, by its title: "pair", "pack of 3", "3 pack", "3 x ...". 1 when nothing says so. Example: `packUnits('Deep hive body, pair')` is 2. */
export function packUnits(title: string): number {
  const t = title.toLowerCase();
  const m =
    /\b(?:pack|set|lot|case)\s+of\s+(\d{1,3})\b/.exec(t) ??
    /\b(\d{1,3})[\s-]*(?:pack|pk|pcs|pieces)\b/.exec(t) ??
    /^(\d{1,3})\s*[x×]\s/.exec(t);
  if (m) return Math.max(1, Number(m[1]));
  return /\bpair\b/.test(t) ? 2 : 1;
}

/** A code without its signs, of whatever letters. */
const plainCode = (code: string): string => code.toUpperCase().replace(/[^\p{L}\p{N}]/gu, '');

/** A channel's SKU whole, and without its first part, which is often the channel's own prefix. */
function skuForms(sku: string): string[] {
  const rest = sku.replace(/^[\p{L}\p{N}]+[^\p{L}\p{N}]+/u, '');
  return [...new Set([plainCode(sku), plainCode(rest)])].filter(Boolean);
}

function wordsOf(title: string): Set<string> {
  const words =
    title
      .toLowerCase()
      .normalize('NFD')
      .match(/[\p{L}\p{N}]+/gu) ?? [];
  return new Set(words.filter(w => !STOP_WORDS.has(w)).map(w => (w.length > 3 ? w.replace(/s$/, '') : w)));
}

/** Likeness of two texts by their pairs of neighbouring characters, counted with repeats (Sørensen and Dice, 1945/1948, from memory). */
export function pairLikeness(a: string, b: string): number {
  if (a === b) return a === '' ? 0 : 1;
  const pairs = new Map<string, number>();
  for (let i = 0; i + 1 < a.length; i++)
    pairs.set(a.slice(i, i + 2), (pairs.get(a.slice(i, i + 2)) ?? 0) + 1);
  let shared = 0;
  for (let i = 0; i + 1 < b.length; i++) {
    const n = pairs.get(b.slice(i, i + 2)) ?? 0;
    if (n === 0) continue;
    pairs.set(b.slice(i, i + 2), n - 1);
    shared++;
  }
  const all = Math.max(0, a.length - 1) + Math.max(0, b.length - 1);
  return all === 0 ? 0 : (2 * shared) / all;
}
