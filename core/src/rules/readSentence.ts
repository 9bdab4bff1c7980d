import { fail, ok, type Result } from '../result.js';
import { ACTION_NAMES, type Action, actionSpec, MOMENTS } from './actions.js';
import { ALWAYS, type Comparison, type Condition, MOST_NESTED, plain } from './condition.js';
import { FIELDS, LINE_FIELDS, type Op, opsOf, type RuleField } from './fields.js';
import { ANY_SERVICE } from './runBook.js';
import { BARE, OP_WORDS, type Said } from './sentence.js';

/** Where a sentence could not be read, from 0, and what was wanted there. */
export interface SentenceProblem {
  at: number;
  wanted: string;
}

/**
 * Reads a sentence as `sentenceOf` prints it. What it says is checked by `checkBook`; here only its form. Example: `readSentence('at
 * clear, when country is "CA" do tag it "north"')`.
 */
export function readSentence(text: string): Result<Said, SentenceProblem> {
  const reader = new Reader(text);
  try {
    return ok(reader.sentence());
  } catch (problem) {
    if (problem instanceof NotRead) return fail({ at: problem.at, wanted: problem.wanted });
    throw problem;
  }
}

/** Leaves the descent at once; it never leaves this file. */
class NotRead extends Error {
  constructor(
    readonly at: number,
    readonly wanted: string,
  ) {
    super(wanted);
  }
}

type Fields = Readonly<Record<string, RuleField>>;

/** Phrases by which comparisons of a field are told, the longest first. */
const longestFirst = <T>(all: readonly [phrase: string, means: T][]) =>
  [...all].sort((a, b) => b[0].length - a[0].length);

const phrasesOf = (fields: Fields) =>
  longestFirst(
    Object.entries(fields).flatMap(
      ([field, spec]): [string, Comparison | { field: string; spec: RuleField }][] =>
        spec.kind === 'flag'
          ? [
              [spec.words, { field, is: 'yes' }],
              [spec.no!, { field, is: 'no' }],
            ]
          : [[spec.words, { field, spec }]],
    ),
  );
const FIELD_PHRASES = { order: phrasesOf(FIELDS), line: phrasesOf(LINE_FIELDS) };
const ACTION_PHRASES = longestFirst(ACTION_NAMES.map(name => [actionSpec(name).words, name]));

/** Reads by descent, phrase by phrase. Every step either moves on or ends it. */
class Reader {
  private pos = 0;

  constructor(private readonly text: string) {}

  sentence(): Said {
    this.must('at');
    const at = this.oneOf(
      MOMENTS.map(m => [m, m] as const),
      'a moment',
    );
    this.must(',');
    const when = this.when();
    const does: Action[] = [];
    if (this.takes('do')) {
      do does.push(this.action());
      while (!this.looksAt(/^\s*,\s*then\b/) && this.takes(','));
      this.takes(',');
    }
    const stop = this.takes('then');
    if (stop) this.must('stop');
    this.space();
    if (this.pos < this.text.length) throw new NotRead(this.pos, 'the end of the sentence');
    return { at, when, do: does, stop };
  }

  private when(): Condition {
    if (this.takes('always')) return ALWAYS;
    this.must('when');
    return plain(this.condition('order', 0));
  }

  private condition(of: 'order' | 'line', depth: number): Condition {
    if (depth > MOST_NESTED) throw new NotRead(this.pos, `at most ${MOST_NESTED} brackets within each other`);
    const parts = [this.term(of, depth)];
    const joint = this.takes('and') ? 'and' : this.takes('or') ? 'or' : null;
    if (!joint) return parts[0]!;
    do parts.push(this.term(of, depth));
    while (this.takes(joint));
    const here = this.pos;
    if (this.takes(joint === 'and' ? 'or' : 'and'))
      throw new NotRead(here, 'brackets around what belongs together, where “and” and “or” meet');
    return joint === 'and' ? { all: parts } : { any: parts };
  }

  private term(of: 'order' | 'line', depth: number): Condition {
    const none = this.takes('none of');
    if (this.takes('(')) {
      const inner = this.condition(of, depth + 1);
      this.must(')');
      if (!none) return inner;
      return { none: 'any' in inner ? inner.any : [inner] };
    }
    if (none) this.must('(');
    return this.comparison(of);
  }

  private comparison(of: 'order' | 'line'): Comparison {
    const found = this.oneOf(FIELD_PHRASES[of], 'a field');
    if ('is' in found) return found;
    const { field, spec } = found;
    const ops = longestFirst(
      opsOf(spec.kind).flatMap(op => OP_WORDS[op as 'is'].map(phrase => [phrase, op] as [string, Op])),
    );
    const is = this.oneOf(ops, 'how it is compared');
    if (spec.kind === 'count') return { field, is, value: this.number() };
    if (spec.kind === 'choice' || spec.kind === 'words' || spec.kind === 'text')
      return { field, is, value: this.words() };
    return { field, is, value: this.measure() };
  }

  private action(): Action {
    const name = this.oneOf(ACTION_PHRASES, 'something to do');
    switch (actionSpec(name).given) {
      case 'nothing':
        return { do: name };
      case 'services':
        return { do: name, with: this.takes('all') ? [ANY_SERVICE] : this.words() };
      case 'lines': {
        this.must('(');
        const lines = plain(this.condition('line', 1));
        this.must(')');
        return { do: name, with: lines };
      }
      case 'money':
        return { do: name, with: this.measure() };
      default:
        return { do: name, with: this.word() };
    }
  }

  /** A comma followed by a quote goes on with the list. */
  private words(): string[] {
    const words = [this.word()];
    while (this.looksAt(/^\s*,\s*"/)) {
      this.must(',');
      words.push(this.word());
    }
    return words;
  }

  private word(): string {
    this.space();
    const m = /^"((?:[^"\\]|\\.)*)"/.exec(this.rest());
    if (!m) throw new NotRead(this.pos, 'a word in quotes');
    this.pos += m[0].length;
    return m[1]!.replace(/\\(.)/g, '$1');
  }

  private number(): number {
    this.space();
    const m = /^-?\d+/.exec(this.rest());
    if (!m) throw new NotRead(this.pos, 'a whole number');
    this.pos += m[0].length;
    return Number(m[0]);
  }

  private measure(): string {
    this.space();
    const m = BARE.exec(this.rest());
    if (!m) return this.word();
    this.pos += m[0].length;
    return m[0];
  }

  private oneOf<T>(phrases: readonly (readonly [string, T])[], wanted: string): T {
    for (const [phrase, means] of phrases) if (this.takes(phrase)) return means;
    throw new NotRead(this.pos, wanted);
  }

  private must(phrase: string): void {
    if (!this.takes(phrase)) throw new NotRead(this.pos, `“${phrase}”`);
  }

  /** Moves past a phrase that stands here, whole words only. */
  private takes(phrase: string): boolean {
    this.space();
    if (!this.text.startsWith(phrase, this.pos)) return false;
    const after = this.pos + phrase.length;
    if (/[a-z]$/.test(phrase) && /^[a-z]/i.test(this.text.slice(after, after + 1))) return false;
    this.pos = after;
    return true;
  }

  private looksAt(what: RegExp): boolean {
    return what.test(this.rest());
  }

  private rest(): string {
    return this.text.slice(this.pos);
  }

  private space(): void {
    while (/\s/.test(this.text[this.pos] ?? '')) this.pos++;
  }
}
