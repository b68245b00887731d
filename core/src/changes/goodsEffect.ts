import { OFFERED, READY } from '../feeds/ready.ts';
import { gapsOf } from '../gaps/gaps.ts';
import { type Asking } from '../kinds/asking.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { answers, fieldsRead } from '../question/evaluate.ts';
import { type Row } from '../question/row.ts';

/** A number before and after a change. */
interface Both {
  before: number;
  after: number;
}

/** What a change does to goods that stay: their stock at cost, what is missing of them, and how many an outlet would take. */
export class GoodsEffect {
  /** In minor units, of stock at hand with a known cost. */
  stockBefore = 0n;
  stockAfter = 0n;
  /** SKUs that go into the file of an outlet. */
  readonly ready: Both = { before: 0, after: 0 };
  private readonly counts = new Map<string, Both>();

  constructor(private readonly asking: Asking) {}

  /** The fields that rows must have. */
  get fields(): readonly FieldKey[] {
    const { register } = this.asking;
    const needed = register.goods.filter(({ own }) => own && own.neededIn.length > 0).map(({ key }) => key);
    const asked = [...fieldsRead(OFFERED, this.asking), ...fieldsRead(READY, this.asking)];
    return [...new Set<FieldKey>([...OF_GAPS, ...needed, ...asked, 'stock', 'cost'])].filter((key) => key !== 'gap');
  }

  add(before: Row, after: Row): void {
    this.side(before, 'before');
    this.side(after, 'after');
  }

  /** By their keys, those that change, the largest change first. */
  get gaps(): readonly (Both & { readonly gap: string })[] {
    const change = ({ before, after }: Both) => Math.abs(after - before);
    return [...this.counts]
      .map(([gap, counts]) => ({ gap, ...counts }))
      .filter((counts) => change(counts) > 0)
      .sort((a, b) => change(b) - change(a));
  }

  private side(given: Row, side: keyof Both): void {
    // How many pictures there are follows from which there are.
    const row: Row = { ...given, picture: given.gallery ? String(given.gallery.split('|').length) : '0' };
    const gaps = gapsOf(row, this.asking.register, this.asking.names);
    for (const gap of gaps) {
      const counts = this.counts.get(gap) ?? { before: 0, after: 0 };
      counts[side]++;
      this.counts.set(gap, counts);
    }
    if (answers(READY, { ...row, gap: gaps.length === 0 ? null : gaps.join('|') }, this.asking)) this.ready[side]++;
    const stock = BigInt(row.stock ?? 0);
    const value = row.cost == null || stock <= 0n ? 0n : stock * BigInt(row.cost);
    if (side === 'before') this.stockBefore += value;
    else this.stockAfter += value;
  }
}

/** What gaps are read from. */
const OF_GAPS: readonly FieldKey[] = [
  ...(['gallery', 'weight', 'gtin', 'price', 'cost', 'brand', 'category', 'description', 'parts'] as const),
  ...(['content', 'shippedBy', 'noShipping'] as const),
];
