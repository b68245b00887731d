/** What is wrong without a value to show: the field says it all. */
type AloneCode = 'required' | 'lacking' | 'field-read-only' | 'where-gone' | 'where-list';

/** What is wrong with a value, of which nothing better is known. */
type ValueCode =
  | 'money-exponent'
  | 'money-negative'
  | 'money-too-large'
  | 'code-control-character'
  | 'gtin-shortened'
  | 'gtin-not-digits'
  | 'gtin-length'
  | 'file-unreadable'
  | 'gtin-prefix'
  | 'template-brace'
  | 'template-field'
  | 'rate-twice'
  | 'name-in-use'
  | 'formula-bands'
  | 'rule-leads-to-itself'
  | 'day-twice'
  | 'variant-twice'
  | 'markup-empty'
  | 'set-in-set'
  | 'table-cells'
  | 'code-in-use'
  | 'not-in-shop'
  | 'name-is-condition'
  | 'category-empty-step'
  | 'nothing-to-change';

/** What is wrong with a value, and what would be right: a corrected value, an example, a limit. */
type MeantCode =
  | 'money-unreadable'
  | 'money-letter-for-digit'
  | 'money-currency'
  | 'money-too-precise'
  | 'percent-unreadable'
  | 'out-of-range'
  | 'count-unreadable'
  | 'number-unreadable'
  | 'unit-unknown'
  | 'date-unreadable'
  | 'time-unreadable'
  | 'code-too-long'
  | 'gtin-check-digit'
  | 'text-too-long'
  | 'text-garbled'
  | 'choice-unknown'
  | 'category-too-deep'
  | 'field-unlike'
  | 'factor-field-missing'
  | 'days-missing'
  | 'comparison-unknown'
  | 'value-is-field'
  | 'question-too-long'
  | 'question-too-deep'
  | 'row-too-long'
  | 'text-unseen'
  | 'duplicate-in-file'
  | 'differs-in-file'
  | 'differs-in-hand'
  | 'differs-in-paste'
  | 'deleted-in-hand'
  | 'thing-gone'
  | 'warning-stops'
  | 'reduction-unreadable'
  | 'formula-unreadable'
  | 'destination-unknown'
  | 'shipping-unreadable'
  | 'name-with-bar'
  | 'several-in-one'
  | 'name-is-field'
  | 'slug-unreadable'
  | 'web-address-unreadable'
  | 'country-unknown'
  | 'customs-code-unreadable'
  | 'currency-unknown'
  | 'time-zone-unknown'
  | 'swatch-unreadable'
  | 'content-unreadable'
  | 'list-too-long'
  | 'fit-unreadable'
  | 'picture-unreadable'
  | 'amount-signed'
  | 'pattern-unreadable'
  | 'step-unreadable'
  | 'slot-empty'
  | 'slot-gone'
  | 'table-twice';

/** What is wrong with a value, and what may have been meant by it. */
type NearCode =
  | 'factor-unreadable'
  | 'reference-unknown'
  | 'category-unknown'
  | 'field-unknown'
  | 'slot-field'
  | 'step-field'
  | 'value-missing'
  | 'quote-open'
  | 'parenthesis-open'
  | 'parenthesis-stray'
  | 'condition-missing';

/** What cannot be, because of something else. */
type BecauseCode = 'follows-others';

/** Everything that can be wrong with a value, a question or a row. The words for each stand in the contract's `words`. */
export type ProblemCode = AloneCode | ValueCode | MeantCode | NearCode | BecauseCode;

interface Alone {
  readonly value?: undefined;
  readonly expected?: undefined;
}
interface OfValue {
  readonly value: string;
  readonly expected?: undefined;
}
interface Meant {
  readonly value: string;
  readonly expected: string;
}
interface Near {
  readonly value?: string;
  readonly expected?: string;
}
interface Because {
  readonly value?: undefined;
  readonly expected: string;
}

/** What comes with a code. */
export type ProblemData<C extends ProblemCode> = C extends AloneCode
  ? Alone
  : C extends ValueCode
    ? OfValue
    : C extends MeantCode
      ? Meant
      : C extends NearCode
        ? Near
        : Because;

/** Where it is wrong. */
export interface ProblemPlace {
  /** The row it stands in, as the reader knows it: an SKU's code or a row of a file. */
  readonly row?: string;
  /** Key of the field that it stands in. */
  readonly field?: string;
  /** What that field is called, where it is not one that every shop has. */
  readonly called?: string;
  /** Place in a text, in characters from its start. */
  readonly at?: number;
  readonly length?: number;
}

/** What is wrong, as data: which value, and what would be right where that is known. */
export type Problem = ProblemPlace &
  (
    | ({ readonly code: AloneCode } & Alone)
    | ({ readonly code: ValueCode } & OfValue)
    | ({ readonly code: MeantCode } & Meant)
    | ({ readonly code: NearCode } & Near)
    | ({ readonly code: BecauseCode } & Because)
  );
/** A problem of one code. */
export type ProblemOf<C extends ProblemCode> = ProblemPlace & { readonly code: C } & ProblemData<C>;

/** A value, or the reason why there is none. Reading never throws. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem };

export const good = <T>(value: T): Result<T> => ({ ok: true, value });
/** The reason why there is no value. A code is given with the data that belongs to it. */
export const bad = <C extends ProblemCode>(
  code: C,
  data: ProblemData<C> & ProblemPlace,
): { readonly ok: false; readonly problem: Problem } => ({
  ok: false,
  problem: { code, ...data } as unknown as Problem,
});
