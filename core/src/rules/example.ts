import { type Fact, FIELD_NAMES, fieldSpec, type OrderFacts } from './fields.js';
import { OTHER_WORD } from './partial.js';
import { compileBook, type RuledOffer, type RunGround, runBook } from './runBook.js';
import { type Answers, type Goal, PICK, type TryGround } from './tryout.js';

/** A made-up order on which a rule acts: the facts that matter, all others are as nobody knows them. */
export interface Example {
  facts: Partial<Record<keyof OrderFacts, Fact>>;
  offers: readonly RuledOffer[];
  promised: string;
}

const [PROMISED, IN_TIME, LATE] = ['2000-01-10', '2000-01-09', '2000-01-11'] as const;

/** What a service costs where nobody asked for it, and one that is picked as the cheapest; minor units. */
const [USUAL_MINOR, PICKED_MINOR] = [900, 800];

/** Puts the answers of a search together to an order and the prices of its services. */
export function exampleOf(answers: Answers): Example {
  const facts: Partial<Record<keyof OrderFacts, Fact>> = {};
  const words = new Map<string, string[]>();
  const told = new Map<string, Record<string, Fact>>();
  const picked = new Map<string, Fact>();
  for (const [key, answer] of answers) {
    const [field, ...rest] = key.split('\n') as [string, ...string[]];
    const word = rest.pop()!;
    const time = rest.join('\n');
    if (field === PICK)
      for (const s of rest.slice(1)) picked.set(s, s === answer ? true : (picked.get(s) ?? false));
    else if (word !== '') words.set(field, [...(words.get(field) ?? []), ...(answer === true ? [word] : [])]);
    else if (time === '') facts[field as keyof OrderFacts] = answer as Fact;
    else told.set(time, { ...told.get(time), [field]: answer as Fact });
  }
  for (const [field, all] of words) facts[field as keyof OrderFacts] = all;
  for (const service of picked.keys()) if (!told.has(service)) told.set(service, {});
  return { facts: withPaid(facts, told), offers: offersOf(facts, told, picked), promised: PROMISED };
}

/** What a buyer must have paid, for the price and the margin that a service was tried with. */
function withPaid(
  facts: Example['facts'],
  told: ReadonlyMap<string, Record<string, Fact>>,
): Example['facts'] {
  if (facts.shippingPaid !== undefined) return facts;
  for (const { margin, price } of told.values())
    if (typeof margin === 'number')
      facts.shippingPaid = Math.max(0, margin + (typeof price === 'number' ? price : USUAL_MINOR));
  return facts;
}

function offersOf(
  { shippingPaid: paid }: Example['facts'],
  told: ReadonlyMap<string, Record<string, Fact>>,
  picked: ReadonlyMap<string, Fact>,
): RuledOffer[] {
  return [...told].flatMap(([service, { price, margin, inTime }]): RuledOffer[] => {
    if (price === null || inTime === null || picked.get(service) === false) return [];
    const usual = picked.get(service) === true ? PICKED_MINOR : USUAL_MINOR;
    const byMargin = typeof margin === 'number' && typeof paid === 'number' ? paid - margin : usual;
    const minor = typeof price === 'number' ? price : byMargin;
    return [{ service, minor, arrives: inTime === false ? LATE : IN_TIME }];
  });
}

/** All facts of an example; what was not asked for is nothing. */
export const groundOf = ({ facts, offers, promised }: Example): RunGround => ({
  facts: Object.fromEntries(
    FIELD_NAMES.map(f => [f, facts[f] ?? (fieldSpec(f)!.kind === 'words' ? [] : null)]),
  ) as OrderFacts,
  lines: [],
  offers,
  promised,
});

/** Whether an example really does what it was made for: the book itself is asked. */
export function happens(ground: TryGround, goal: Goal, example: Example, currency: string): boolean {
  const { rule } = ground.rules[goal.target]!;
  const book = { rows: ground.rules.map(r => r.rule) };
  const ruled = runBook(
    compileBook(book, rule.at, currency, ground.templates, rule.button?.code ?? null),
    groundOf(example),
  );
  if (!ruled.acted.includes(rule.id)) return false;
  return !goal.stays || Object.values(ruled.fields).some(f => f.by === rule.id);
}

/** How a made-up word reads. */
export const readsAs = (fact: Fact): Fact =>
  typeof fact === 'string' ? fact.replaceAll(OTHER_WORD, '…') : fact;
