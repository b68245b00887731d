import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { bad, good, type Problem, type Result } from '../problems/problem.ts';
import { POINT } from '../money/digits.ts';
import { readNumber } from '../values/numbers.ts';
import { fold } from '../words/fold.ts';
import { nearest } from '../words/nearest.ts';
import { knownValues, placeOf, readValue, typeOf } from '../values/values.ts';
import { comparisonsOf, isComparable, valuesOf } from './comparisons.ts';
import { COMPARISON, countsDays, countsValues, isPartial, WRITTEN } from './comparisonTable.ts';
import { KnownNames, onlyNameWith } from './knownNames.ts';
import { type Token, tokens } from './tokens.ts';
import { type Compare, type ComparisonKey, ONCE, plain, type Question, type Than } from './tree.ts';

/** Thrown inside the parser only and caught at its edge, so that each production reads as the grammar does. */
class Stop extends Error {
  constructor(readonly problem: Problem) {
    super(problem.code);
  }
}

const COMPARISON_FORMS = WRITTEN.map(([text, comparison]) => ({ words: text.split(' '), comparison }));

/** A name that has a slip in it is looked for over so many words. */
const MOST_WORDS = 4;
/** Parentheses and "not" in one another; no person reads more, and each costs everything that looks at the question. */
export const DEEPEST_QUESTION = 20;
/** Conditions, groups and "not" of one question. */
export const MOST_CONDITIONS = 200;

/**
 * Reads a question.
 *
 *     brand is "Harrow & Pine" margin < 35        both hold
 *     (stock is 0 or gap is "no picture")          either holds
 *     not stage is Retired   in Ink   iron gall    `in` a category or below; plain words are searched for
 *     code starts with TT-   price between 5 and 10   colour is Blue, Green
 *     cost > 0.6 times regular price   bottled on in the last 30 days   tags has at least 2
 *
 * A value of several words is quoted, or is a name that the shop knows. Problems carry their place in the text. Refuses
 * more than `MOST_CONDITIONS` conditions, and groups deeper than `DEEPEST_QUESTION`.
 */
export function parseQuestion(text: string, asking: Asking): Result<Question> {
  const read = readQuestion(text, asking);
  return read.ok ? good(read.value.question) : read;
}

/** A question as it was read, and ranges in it that were written backwards and turned round. */
export interface QuestionRead {
  readonly question: Question;
  readonly turned: readonly Compare[];
}

/** The same as `parseQuestion`, with what a person is to be told of how it was read. */
export function readQuestion(text: string, asking: Asking): Result<QuestionRead> {
  const read = tokens(text);
  if (!read.ok) return read;
  try {
    const parser = new Parser(text, read.value, asking);
    return good({ question: plain(parser.question()), turned: parser.turned });
  } catch (error) {
    if (error instanceof Stop) return { ok: false, problem: error.problem };
    throw error;
  }
}

class Parser {
  readonly turned: Compare[] = [];
  private next = 0;
  private depth = 0;
  private count = 0;
  private readonly known = new Map<Field, KnownNames>();

  constructor(
    private readonly text: string,
    private readonly tokens: readonly Token[],
    private readonly asking: Asking,
  ) {}

  question(): Question {
    const question = this.anyOf();
    const stray = this.tokens[this.next];
    if (stray) throw this.problem('parenthesis-stray', stray);
    return question;
  }

  private anyOf(): Question {
    const of = [this.allOf()];
    while (this.keyword('or')) of.push(this.allOf());
    if (of.length > 1 && of.some((part) => part.kind === 'all' && part.of.length === 0)) {
      throw this.problem('condition-missing', this.tokens[this.next - 1]);
    }
    return { kind: 'any', of };
  }

  private allOf(): Question {
    const of: Question[] = [];
    for (;;) {
      if (of.length > 0) this.keyword('and');
      const token = this.tokens[this.next];
      if (!token || token.kind === 'close' || (token.kind === 'word' && token.key === 'or')) break;
      of.push(this.condition(token));
    }
    return { kind: 'all', of };
  }

  private condition(token: Token): Question {
    if (++this.count > MOST_CONDITIONS) throw this.problem('question-too-long', token, String(MOST_CONDITIONS));
    if (this.keyword('not')) {
      const following = this.tokens[this.next];
      if (!following || following.kind === 'close') throw this.problem('condition-missing', token);
      return { kind: 'not', of: this.deeper(token, () => this.condition(following)) };
    }
    if (token.kind === 'open') return this.group(token);
    return this.comparison() ?? this.word(token);
  }

  private deeper(token: Token, read: () => Question): Question {
    if (++this.depth > DEEPEST_QUESTION) throw this.problem('question-too-deep', token, String(DEEPEST_QUESTION));
    const inner = read();
    this.depth--;
    return inner;
  }

  private group(open: Token): Question {
    this.next++;
    const inner = this.deeper(open, () => this.anyOf());
    if (this.tokens[this.next]?.kind !== 'close') throw this.problem('parenthesis-open', open);
    const group = plain(inner);
    if (group.kind === 'all' && group.of.length === 0) throw this.problem('condition-missing', open);
    this.next++;
    return inner;
  }

  private comparison(): Question | undefined {
    const start = this.next;
    const field = this.fieldName();
    const formAt = this.next;
    const written = this.comparisonForm(field === undefined);
    // A name such as "fits" says how it compares, where a value follows.
    const isSaid = field !== undefined && typeOf(field).isPhrase && this.isText(this.tokens[this.next]);
    const form = written ?? (isSaid ? 'is' : undefined);
    if (!form) {
      this.next = start;
      this.refuseUnknownField();
      return undefined;
    }
    const target = field ?? this.asking.register.get('category');
    if (form === 'in' && target.type !== 'categories') {
      // "product in Ink": a word that happens to be a field's name too, and then the category.
      this.next = start;
      return undefined;
    }
    if (!comparisonsOf(target).includes(form)) {
      const [first, last] = [this.tokens[formAt]!, this.tokens[this.next - 1]!];
      const place = { ...first, text: this.text.slice(first.at, last.end), end: last.end };
      throw this.problem('comparison-unknown', place, comparisonsOf(target).join(', '), target);
    }
    const than = this.than(target, form);
    if (than) return { kind: 'compare', field: target.key, comparison: form, values: [], than };
    const read = this.values(target, form);
    const isTurned = form === 'between' && BigInt(read[0]!) > BigInt(read[1]!);
    const values = isTurned ? read.toReversed() : read;
    const compare: Compare = { kind: 'compare', field: target.key, comparison: form, values };
    if (isTurned) this.turned.push(compare);
    return compare;
  }

  /** Another field that a number is compared with, with how many times of it before its name. */
  private than(field: Field, comparison: ComparisonKey): Than | undefined {
    if (!typeOf(field).isNumber || !COMPARISON[comparison].ofAnother) return undefined;
    const start = this.next;
    const [factor, sign] = this.tokens.slice(start, start + 2);
    const isTimes = sign?.key === 'times' || sign?.key === '×';
    if (isTimes) this.next += 2;
    const named = this.tokens[this.next];
    const other = this.fieldName();
    if (!other) {
      if (isTimes) throw this.problem('factor-field-missing', sign, field.name);
      return undefined;
    }
    if (!isComparable(field, other, comparison)) throw this.problem('field-unlike', named, field.name, other);
    if (!isTimes) return { field: other.key, times: ONCE };
    const times = readNumber(factor!.text, undefined, this.asking.names.numberStyle ?? POINT);
    if (!times.ok) throw new Stop({ ...times.problem, at: factor!.at, length: factor!.end - factor!.at });
    return { field: other.key, times: times.value };
  }

  /** How many days, or how many values: a whole number, with `days` or `weeks` behind it where it counts days. */
  private quantity(field: Field, comparison: ComparisonKey): string {
    const token = this.tokens[this.next];
    if (!token) throw this.problem('value-missing', this.tokens[this.next - 1], undefined, field);
    if (!/^\d{1,5}$/.test(token.text)) throw this.problem('count-unreadable', token, '12', field);
    this.next++;
    if (!countsDays(comparison)) return String(Number(token.text));
    const unit = ['days', 'day', 'weeks', 'week'].find((word) => this.keyword(word));
    if (unit === undefined) throw this.problem('days-missing', token, `${token.text} days`, field);
    return String(Number(token.text) * (unit.startsWith('week') ? 7 : 1));
  }

  private fieldName(): Field | undefined {
    const quoted = this.tokens[this.next];
    // A name that cannot be typed bare, as one with a comma in it, is a field's where it stands in quotes.
    if (quoted?.kind === 'quoted') {
      const field = this.asking.register.calledInQuotes.get(quoted.key);
      if (field) this.next++;
      return field;
    }
    const found = this.asking.register.called.find(({ words }) =>
      words.every((word, i) => this.isWord(this.next + i, word)),
    );
    if (found) this.next += found.words.length;
    return found?.field;
  }

  /** Without a field's name only `in` may stand. */
  private comparisonForm(onlyIn: boolean): ComparisonKey | undefined {
    const found = COMPARISON_FORMS.find(
      ({ words, comparison }) =>
        (!onlyIn || comparison === 'in') && words.every((word, i) => this.isWord(this.next + i, word)),
    );
    if (found) this.next += found.words.length;
    return found?.comparison;
  }

  /** A word that is no field, with a comparison behind it, is a slip and not a word to search for. */
  private refuseUnknownField(): void {
    const token = this.tokens[this.next]!;
    const following = this.tokens[this.next + 1];
    if (token.kind === 'word' && following && (following.kind === 'symbol' || this.isWord(this.next + 1, 'is'))) {
      const near = nearest(
        token.text,
        this.asking.register.called.map(({ words }) => words.join(' ')),
      );
      throw this.problem('field-unknown', token, near);
    }
    if (token.kind === 'symbol' || token.kind === 'comma') throw this.problem('condition-missing', token);
  }

  private values(field: Field, comparison: ComparisonKey): string[] {
    const count = valuesOf(comparison);
    if (count === 'none') return [];
    if (countsDays(comparison) || countsValues(comparison)) return [this.quantity(field, comparison)];
    const values = this.value(field, comparison);
    if (count === 'two') {
      if (!this.keyword('and')) throw this.problem('value-missing', this.tokens[this.next - 1], 'and', field);
      return [...values, ...this.value(field, comparison)];
    }
    while (count === 'list' && (this.tokens[this.next]?.kind === 'comma' || this.isOrWithName(field))) {
      this.next++;
      values.push(...this.value(field, comparison));
    }
    return [...new Set(values)];
  }

  /**
   * Whether `or` is followed by another name of the field's, as in `in Ink or Pens`. A field's name begins a condition, and a
   * text in quotes is a word.
   */
  private isOrWithName(field: Field): boolean {
    const [or, following] = this.tokens.slice(this.next, this.next + 2);
    if (or?.kind !== 'word' || or.key !== 'or' || following?.kind !== 'word') return false;
    const isField = this.asking.register.called.some(({ words }) =>
      words.every((word, i) => this.isWord(this.next + 1 + i, word)),
    );
    return !isField && this.knownValue(field, following) !== undefined;
  }

  /** One value; several where a name means several things. */
  private value(field: Field, comparison: ComparisonKey): string[] {
    const token = this.tokens[this.next];
    if (!token || (token.kind !== 'open' && !this.isText(token))) {
      throw this.problem('value-missing', this.tokens[this.next - 1], undefined, field);
    }
    const known = token.kind === 'quoted' ? undefined : this.knownValue(field, token);
    const end = known?.end ?? this.phraseEnd(field, token) ?? this.numberEnd(field, token);
    const written = known?.text ?? (token.kind === 'quoted' ? token.text : this.text.slice(token.at, end));
    while ((this.tokens[this.next]?.at ?? Infinity) < end) this.next++;
    return this.canonical(field, comparison, written, token, end);
  }

  private isText(token: Token | undefined): boolean {
    return token?.kind === 'word' || token?.kind === 'quoted';
  }

  /** The end of a value of several words: at a sign, at `and`, `or` and `not`, and where another field's name begins. */
  private phraseEnd(field: Field, token: Token): number | undefined {
    if (!typeOf(field).isPhrase || token.kind !== 'word') return undefined;
    let last = this.next;
    for (let i = last + 1; this.tokens[i]?.kind === 'word' && !this.beginsCondition(i); i++) last = i;
    return this.tokens[last]!.end;
  }

  private beginsCondition(index: number): boolean {
    if (['and', 'or', 'not', 'in'].some((word) => this.isWord(index, word))) return true;
    return this.asking.register.called.some(({ words }) => words.every((word, i) => this.isWord(index + i, word)));
  }

  /** A number may have a comma in it, right before its next digit, and its unit behind a space: `1,200`, `35 %`, `250 g`. */
  private numberEnd(field: Field, token: Token): number {
    let last = this.next;
    const { isNumber, units } = typeOf(field);
    while (isNumber && this.goesOnBehindComma(last)) last += 2;
    const unit = this.tokens[last + 1];
    return (unit?.kind === 'word' && units?.(field).includes(unit.text) ? unit : (this.tokens[last] ?? token)).end;
  }

  /** Whether a comma and digits stand right behind a word. */
  private goesOnBehindComma(index: number): boolean {
    const [word, comma, digits] = this.tokens.slice(index, index + 3);
    return comma?.kind === 'comma' && comma.at === word!.end && digits?.at === comma.end && /^\d/.test(digits.text);
  }

  /** The longest name that the shop knows at this place, so that names of several words need no quotes. */
  private knownValue(field: Field, token: Token): { text: string; end: number } | undefined {
    const names = this.namesFor(field);
    for (const length of names.lengths) {
      const end = token.at + length;
      if (end > this.text.length || /[^\s,)]/.test(this.text[end] ?? ' ')) continue;
      const name = names.get(fold(this.text.slice(token.at, end)));
      if (name !== undefined) return { text: name, end };
    }
    return undefined;
  }

  private namesFor(field: Field): KnownNames {
    const known = this.known.get(field) ?? new KnownNames(knownValues(field, this.asking));
    this.known.set(field, known);
    return known;
  }

  private canonical(field: Field, comparison: ComparisonKey, written: string, token: Token, end: number): string[] {
    const place = { at: token.at, length: end - token.at };
    const { isNamed, readWanted, readEnd } = typeOf(field);
    if (isPartial(comparison)) {
      const part = readEnd?.(written, field, this.asking) ?? good(written);
      if (!part.ok) throw new Stop({ ...part.problem, ...placeOf(field), ...place });
      return [part.value];
    }
    const { register } = this.asking;
    // What no value may be can be asked for all the same.
    const { range: _, ...anyRange } = field;
    const read = readWanted?.(written, field, this.asking) ?? readValue(anyRange, written, this.asking);
    // Of a name that means several things, all are asked for.
    if (read.ok) return isNamed ? (read.value ?? '').split('|') : [read.value ?? ''];
    const isField = register.called.some(({ words }) => words.join(' ') === fold(written));
    const near = isNamed && field.refersTo ? this.nearName(field, written, place) : undefined;
    const { problem: found } = read;
    const isUnknown = found.code === 'reference-unknown' || found.code === 'category-unknown';
    const problem: Problem =
      isField && !isNamed
        ? { code: 'value-is-field', value: written, expected: found.expected ?? '' }
        : near && isUnknown
          ? { ...found, ...near }
          : found;
    throw new Stop({ ...problem, ...placeOf(field), ...place, ...(near && { at: near.at, length: near.length }) });
  }

  /** What was meant by a name with a slip in it, which may go on over the next words. */
  private nearName(field: Field, written: string, { at, length }: { at: number; length: number }) {
    const known = knownValues(field, this.asking);
    const behind = this.tokens.slice(this.next, this.next + MOST_WORDS - 1);
    const other = behind.findIndex(({ kind }) => kind !== 'word');
    const longer = behind.slice(0, other < 0 ? undefined : other).map(({ end }) => this.text.slice(at, end));
    for (const value of [written, ...longer]) {
      const expected = nearest(value, known) ?? onlyNameWith(value, known);
      if (expected !== undefined) return { value, expected, at, length: value === written ? length : value.length };
    }
    return undefined;
  }

  private word(token: Token): Question {
    this.next++;
    return { kind: 'word', text: token.text };
  }

  private isWord(index: number, word: string): boolean {
    const token = this.tokens[index];
    return (token?.kind === 'word' || token?.kind === 'symbol') && token.key === word;
  }

  private keyword(word: string): boolean {
    const token = this.tokens[this.next];
    if (token?.kind !== 'word' || token.key !== word) return false;
    this.next++;
    return true;
  }

  private problem(code: Problem['code'], token: Token | undefined, expected?: string, field?: Field): Stop {
    const at = token?.at ?? this.text.length;
    const made = bad(code, {
      at,
      length: (token?.end ?? at) - at,
      ...(token && { value: token.text }),
      ...(expected !== undefined && { expected }),
      ...(field && placeOf(field)),
    });
    return new Stop(made.problem);
  }
}
