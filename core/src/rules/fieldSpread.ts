import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { plainText } from '../words/markup.ts';
import { type FieldValue } from '../values/valueType.ts';
import { showValue } from '../values/values.ts';
import { isAmount, wholeOf } from './parts/amounts.ts';
import { isSeveral, valuesIn } from './parts/several.ts';
import { hasWords } from './parts/text.ts';

/** Lower edges of amounts in wholes, on a 1-2-5 series; the first bar holds all below nothing. */
const SIZES = [-Infinity, 0, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000] as const;
/** Lower edges of lengths in characters. */
const LENGTHS = [0, 10, 20, 30, 40, 50, 60, 80, 100, 150, 200, 500] as const;
const MOST_VALUES = 12;

export interface ValueBar {
  /** The lower edge of what it holds, or a value in canonical text; empty for those that have none. */
  readonly bar: string;
  readonly before: number;
  readonly after: number;
}

/** How the values of a field are spread before and after: sizes of amounts, lengths of texts, counts of values. */
export class FieldSpread {
  readonly of: 'sizes' | 'lengths' | 'values';
  private readonly counts = new Map<string, { before: number; after: number }>();

  constructor(
    readonly field: Field,
    private readonly asking: Asking,
  ) {
    this.of = isAmount(field) ? 'sizes' : hasWords(field) ? 'lengths' : 'values';
  }

  add(before: FieldValue, after: FieldValue): void {
    for (const bar of this.barsOf(before)) this.count(bar).before++;
    for (const bar of this.barsOf(after)) this.count(bar).after++;
  }

  /** The bars in which a value stands: one, of several values each its own. */
  barsOf(value: FieldValue): readonly string[] {
    if (value === null) return [''];
    if (this.of === 'sizes') return [edgeOf(SIZES, Number(value) / Number(wholeOf(this.field, this.asking)))];
    if (this.of === 'lengths') return [edgeOf(LENGTHS, lengthOf(this.field, value))];
    return isSeveral(this.field) ? valuesIn(this.field, value) : [value];
  }

  /** The bars in their order; of values those that most have or that change most, at most twelve. */
  bars(): ValueBar[] {
    const all = [...this.counts].map(([bar, { before, after }]) => ({ bar, before, after }));
    if (this.of !== 'values') return all.sort((a, b) => rank(a.bar) - rank(b.bar));
    const weight = ({ before, after }: ValueBar) => Math.abs(after - before) * 1_000_000 + after;
    return all
      .sort((a, b) => weight(b) - weight(a))
      .slice(0, MOST_VALUES)
      .sort((a, b) => b.after - a.after);
  }

  /** What a bar is called: its edges, or the value as people read it. */
  nameOf(bar: string): string {
    if (bar === '') return '';
    if (this.of === 'values') return showValue(this.field, bar, this.asking);
    return bar;
  }

  private count(bar: string): { before: number; after: number } {
    let count = this.counts.get(bar);
    if (!count) this.counts.set(bar, (count = { before: 0, after: 0 }));
    return count;
  }
}

const rank = (bar: string): number => (bar === '' ? -Infinity : bar === 'below' ? -1 : Number(bar));

function edgeOf(edges: readonly number[], value: number): string {
  const edge = edges.findLast((one) => value >= one)!;
  return edge === -Infinity ? 'below' : String(edge);
}

/** A description counts its words only. */
const lengthOf = ({ type }: Field, value: string): number =>
  type === 'richText' ? plainText(value).length : value.length;
