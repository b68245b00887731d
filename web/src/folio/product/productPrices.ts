import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { type AnswerOf, calls, problemWords } from '@ivory/contract';
import { BY_RULE, editValue, type Field, type FieldKey, readValue, showMoney } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzInputModule } from 'ng-zorro-antd/input';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { Api } from '../../api/api.ts';
import { OffersOnly } from '../../theme/offersOnly.ts';
import { SelectLabel } from '../../theme/selectLabel.ts';
import { Proposing } from '../../state/proposing.ts';
import { session } from '../../state/session.ts';
import { shownTimes } from '../../words/days.ts';
import { words } from '../../words/en.ts';
import { whole } from '../../words/numbers.ts';

type ProductSale = AnswerOf<typeof calls.getProduct>['sales'][number];
type PriceOfSku = ProductSale['prices'][number];

/** A row of the table of quantity prices, as it is typed. */
interface QuantityRow {
  readonly from: string;
  readonly price: string;
}

/** The prices of a product besides its regular ones: in each sale that is not over, and by quantity. */
@Component({
  selector: 'ivory-product-prices',
  imports: [FormsModule, NzInputModule, NzSelectModule, OffersOnly, SelectLabel],
  templateUrl: './productPrices.html',
  styleUrl: './productPrices.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProductPrices {
  readonly product = input.required<string>();
  readonly sales = input.required<readonly ProductSale[]>();
  readonly skus = input.required<readonly { readonly id: string; readonly code: string }[]>();

  protected readonly words = words.folio.prices;
  private readonly api = inject(Api);
  private readonly proposing = inject(Proposing);
  private readonly asking = inject(Store).selectSignal(session.selectAsking);
  /** The sales whose variants are shown one by one. */
  private readonly unfolded = signal<ReadonlySet<string>>(new Set());
  protected readonly problem = signal('');

  protected readonly rows = computed(() =>
    this.sales()
      .filter((sale) => !isByQuantity(sale))
      .map((sale) => {
        const said = sale.prices.map((one) => this.textOf(sale.id, now(one)));
        const isOne = new Set(said).size === 1;
        const isOpen = this.unfolded().has(sale.id);
        return {
          ...sale,
          days: shownTimes(sale) || this.words.always,
          for: [sale.group, sale.fromPieces === null ? null : this.words.fromPieces(sale.fromPieces)]
            .filter((part) => part !== null)
            .join(', '),
          text: isOne ? said[0]! : '',
          hint: isOne ? '' : this.words.differ,
          comesTo: this.comesTo(sale.prices),
          isProposed: sale.prices.some(({ proposed }) => proposed !== undefined),
          isOpen,
          variants: isOpen
            ? sale.prices.map((one, i) => ({
                ...one,
                text: said[i]!,
                comesTo: this.comesTo([one]),
                isProposed: one.proposed !== undefined,
              }))
            : [],
        };
      }),
  );
  /** Sales that the product is in with none of its variants. */
  protected readonly others = computed(() => {
    const inSale = new Set(this.sales().map(({ id }) => id));
    return [...(this.asking().names.lists.get('sale')?.byId ?? [])].flatMap(([id, name]) =>
      inSale.has(id) ? [] : [{ id, name }],
    );
  });

  /** Prices by quantity, as the shop and the proof in hand have them. */
  private readonly standing = computed(() =>
    this.sales()
      .filter(isByQuantity)
      .map(({ id, fromPieces, prices }) => {
        const texts = new Set(prices.map((one) => this.textOf(id, now(one))));
        const isProposed = prices.some(({ proposed }) => proposed !== undefined);
        return {
          from: String(fromPieces),
          price: texts.size === 1 ? [...texts][0]! : '',
          differ: texts.size > 1,
          isProposed,
        };
      })
      .filter(({ price, differ }) => price !== '' || differ),
  );
  protected readonly differ = computed(() => this.standing().some(({ differ }) => differ));
  protected readonly proposedSteps = computed(
    () => new Set(this.standing().flatMap(({ from, isProposed }) => (isProposed ? [from] : []))),
  );
  /** The typed text; reset when the present value changes. */
  protected readonly steps = linkedSignal<readonly QuantityRow[]>(() => [
    ...this.standing().map(({ from, price }) => ({ from, price })),
    NO_ROW,
  ]);
  protected readonly isTyped = computed(
    () =>
      JSON.stringify(filled(this.steps())) !==
      JSON.stringify(this.standing().map(({ from, price }) => ({ from, price }))),
  );

  /** The field of prices in a sale; one that is only proposed is no field of the shop yet. */
  private field(sale: string): Field {
    const { register } = this.asking();
    const { required: _, ...price } = register.get('price');
    return register.find(`salePrice@${sale}`) ?? { ...price, type: 'salePrice' };
  }

  private textOf(sale: string, value: string | null): string {
    return value === null ? '' : editValue(this.field(sale), value, this.asking());
  }

  /** What prices that are as the sale says come to; of several variants the lowest and the highest. */
  private comesTo(prices: readonly PriceOfSku[]): string {
    const { currency } = this.asking().names;
    const amounts = prices
      .flatMap((one) => (now(one) === BY_RULE && one.comesTo !== null ? [BigInt(one.comesTo)] : []))
      .sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
    if (amounts.length === 0) return '';
    const [lowest, highest] = [showMoney(amounts[0]!, currency), showMoney(amounts.at(-1)!, currency)];
    return lowest === highest ? lowest : this.words.span(lowest, highest);
  }

  protected skusText(count: number): string {
    return whole(count);
  }

  protected toggle(sale: string): void {
    const open = new Set(this.unfolded());
    if (!open.delete(sale)) open.add(sale);
    this.unfolded.set(open);
  }

  /** Proposes a price in a sale for some variants, or takes them out of it where nothing is typed. */
  protected set(sale: string, prices: readonly { readonly sku: string }[], text: string): void {
    const read = readValue(this.field(sale), text, this.asking());
    if (!read.ok) {
      this.problem.set(problemWords(read.problem));
      return;
    }
    this.problem.set('');
    const key: FieldKey = `salePrice@${sale}`;
    const edits = prices.map(({ sku }) => ({ kind: 'sku' as const, id: sku, field: key, text }));
    this.proposing.run(this.api.call(calls.editCells, { body: { title: this.words.title, edits } }));
  }

  protected putIn(sale: string): void {
    this.set(
      sale,
      this.skus().map(({ id }) => ({ sku: id })),
      'as the sale',
    );
  }

  protected type(place: number, part: Partial<QuantityRow>): void {
    const rows = this.steps().map((row, i) => (i === place ? { ...row, ...part } : row));
    const last = rows.at(-1);
    this.steps.set(last && (last.from || last.price) ? [...rows, NO_ROW] : rows);
  }

  protected drop(place: number): void {
    this.steps.set(this.steps().filter((_, i) => i !== place));
  }

  protected propose(): void {
    const body = { product: this.product(), rows: filled(this.steps()) };
    this.proposing.run(this.api.call(calls.setQuantityPrices, { body }));
  }
}

const NO_ROW: QuantityRow = { from: '', price: '' };
const filled = (rows: readonly QuantityRow[]): QuantityRow[] =>
  rows
    .map(({ from, price }) => ({ from: from.trim(), price: price.trim() }))
    .filter(({ from, price }) => from !== '' || price !== '');

/** What an SKU has in a sale, as the proof in hand makes it. */
const now = ({ price, proposed }: PriceOfSku): string | null => (proposed === undefined ? price : proposed);

/** A sale of nothing but a number of pieces is a price by quantity. */
const isByQuantity = ({ fromPieces, group, from, until }: ProductSale): boolean =>
  fromPieces !== null && group === null && from === null && until === null;
