/** Everything that can be wrong with a value, a question or a row. The words for each stand in the contract's `words`. */
export type ProblemCode =
  | 'required'
  | 'money-unreadable'
  | 'money-letter-for-digit'
  | 'money-exponent'
  | 'money-currency'
  | 'money-negative'
  | 'money-too-large'
  | 'money-too-precise'
  | 'percent-unreadable'
  | 'out-of-range'
  | 'count-unreadable'
  | 'number-unreadable'
  | 'unit-unknown'
  | 'date-unreadable'
  | 'time-unreadable'
  | 'code-too-long'
  | 'code-control-character'
  | 'gtin-shortened'
  | 'gtin-not-digits'
  | 'gtin-length'
  | 'gtin-check-digit'
  | 'gtin-prefix'
  | 'file-unreadable'
  | 'template-brace'
  | 'template-field'
  | 'text-too-long'
  | 'text-garbled'
  | 'choice-unknown'
  | 'reference-unknown'
  | 'category-unknown'
  | 'category-too-deep'
  | 'category-empty-step'
  | 'field-unknown'
  | 'field-unlike'
  | 'factor-field-missing'
  | 'days-missing'
  | 'field-read-only'
  | 'comparison-unknown'
  | 'value-missing'
  | 'value-is-field'
  | 'quote-open'
  | 'parenthesis-open'
  | 'parenthesis-stray'
  | 'condition-missing'
  | 'question-too-long'
  | 'question-too-deep'
  | 'row-too-long'
  | 'text-unseen'
  | 'lacking'
  | 'nothing-to-change'
  | 'factor-unreadable'
  | 'duplicate-in-file'
  | 'differs-in-file'
  | 'differs-in-hand'
  | 'differs-in-paste'
  | 'not-in-shop'
  | 'code-in-use'
  | 'deleted-in-hand'
  | 'thing-gone'
  | 'look-stops'
  | 'reduction-unreadable'
  | 'formula-unreadable'
  | 'formula-bands'
  | 'destination-unknown'
  | 'shipping-unreadable'
  | 'rate-twice'
  | 'name-in-use'
  | 'name-with-bar'
  | 'several-in-one'
  | 'name-is-field'
  | 'name-is-condition'
  | 'slug-unreadable'
  | 'web-address-unreadable'
  | 'country-unknown'
  | 'customs-code-unreadable'
  | 'currency-unknown'
  | 'time-zone-unknown'
  | 'swatch-unreadable'
  | 'content-unreadable'
  | 'rule-leads-to-itself'
  | 'list-too-long'
  | 'day-twice'
  | 'fit-unreadable'
  | 'picture-unreadable'
  | 'variant-twice'
  | 'markup-empty'
  | 'follows-others'
  | 'set-in-set'
  | 'amount-signed'
  | 'pattern-unreadable'
  | 'step-unreadable'
  | 'step-field'
  | 'slot-empty'
  | 'slot-field'
  | 'slot-gone'
  | 'where-gone'
  | 'where-list'
  | 'table-twice'
  | 'table-cells';

/** What is wrong, as data: which value, and what would be right where that is known. */
export interface Problem {
  readonly code: ProblemCode;
  readonly value?: string;
  /** What would be right: a corrected value, a near name, a limit. */
  readonly expected?: string;
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

/** A value, or the reason why there is none. Reading never throws. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem };

export const good = <T>(value: T): Result<T> => ({ ok: true, value });
export const bad = (code: ProblemCode, rest: Omit<Problem, 'code'> = {}): { ok: false; problem: Problem } => ({
  ok: false,
  problem: { code, ...rest },
});
