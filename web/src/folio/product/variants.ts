import { ChangeDetectionStrategy, Component, computed, inject, input, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { calls, type CodesBy } from '@ivory/contract';
import {
  codePattern,
  combinationKey,
  type Combination,
  type Field,
  type FieldKey,
  fold,
  growGrid,
  MOST_OPTIONS,
  ownKey,
  showValue,
  variantFields,
} from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { map, tap } from 'rxjs';
import { Api, problemHere } from '../../api/api.ts';
import { ThingRows } from '../../lists/thingRows.ts';
import { OffersOnly } from '../../theme/offersOnly.ts';
import { SelectLabel } from '../../theme/selectLabel.ts';
import { type CellEdits } from '../../sheet/cells/cellBlocks.ts';
import { type H, type SheetColumn, sheetColumn } from '../../sheet/columns/columns.ts';
import { Editing } from '../../sheet/cells/editing.ts';
import { Sheet } from '../../sheet/sheet.ts';
import { valueInHand } from '../../sheet/rows/proposed.ts';
import { type SheetRow } from '../../sheet/rows/sheetRows.ts';
import { Proposing } from '../../state/proposing.ts';
import { CodesForm, type SeeCodes } from './codesForm.ts';
import { Combinations } from './combinations.ts';
import { ForVariants } from './forVariants.ts';
import { type Picture } from '../../pictures/pictureOrder.ts';
import { moment } from '../../api/moment.ts';
import { words } from '../../words/en.ts';
import { whole } from '../../words/numbers.ts';

const ROW = 30;
const HEADING = 44;
const TALLEST = 420;
const NARROWEST_CODE = 110;
const WIDEST_CODE = 280;
const CODE_MARGIN = 36;
const CODE_LETTER = 8;
const PRICE = 108;

/** The variants of a product as a sheet of its own, and the values that make more of them. */
@Component({
  selector: 'ivory-variants',
  imports: [
    CodesForm,
    Combinations,
    FormsModule,
    NzButtonModule,
    NzSelectModule,
    OffersOnly,
    SelectLabel,
    Sheet,
    ForVariants,
  ],
  templateUrl: './variants.html',
  styleUrl: './variants.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Variants {
  readonly product = input.required<string>();
  readonly rows = input.required<ThingRows>();
  /** The pictures of the product; a variant may use one of them as its own. */
  readonly pictures = input<readonly Picture[]>([]);

  protected readonly words = words;
  protected readonly whole = whole;
  private readonly api = inject(Api);
  private readonly isPast = inject(Store).selectSignal(moment.selectIsPast);
  private readonly editing = inject(Editing);
  private readonly proposing = inject(Proposing);
  private readonly sheet = viewChild(Sheet);
  /** Price and stock, which are looked at most, stand first. */
  private readonly fields = computed(() => {
    const fields = variantFields(this.asking().register);
    const first = fields.filter(({ key }) => key === 'price' || key === 'stock');
    return [...first, ...fields.filter((field) => !first.includes(field))];
  });
  protected readonly keys = computed(() => this.fields().map(({ key }) => key));
  protected readonly inHand = signal<readonly SheetRow[]>([]);

  protected readonly asking = computed(() => this.rows().asking);
  private readonly options = computed(() => this.asking().register.goods.filter(({ own }) => own?.of === 'option'));
  /** Options that were chosen for the product and no variant has yet. */
  private readonly begun = signal<readonly FieldKey[]>([]);
  protected readonly used = computed(() =>
    this.options().filter(
      ({ key }) => this.begun().includes(key) || this.rows().rows.some((row) => valueInHand(row, key) != null),
    ),
  );
  protected readonly unused = computed(() =>
    this.used().length >= MOST_OPTIONS ? [] : this.options().filter((option) => !this.used().includes(option)),
  );
  protected readonly columns = computed(() => {
    const { register, names } = this.asking();
    const columnOf = (field: Field) => sheetColumn(field, names.currency.code, this.isPast());
    const code = { ...columnOf(register.get('code')), width: this.codeWidth() };
    const fields = this.fields().map((field) =>
      field.key === 'price' ? { ...columnOf(field), width: PRICE } : columnOf(field),
    );
    return [this.pictureColumn(), code, ...this.used().map(columnOf), ...fields];
  });
  /** Codes are what variants are told apart by: the longest has room. */
  private readonly codeWidth = computed(() => {
    const longest = Math.max(0, ...this.rows().rows.map((row) => (valueInHand(row, 'code') ?? '').length));
    return Math.min(WIDEST_CODE, Math.max(NARROWEST_CODE, CODE_MARGIN + longest * CODE_LETTER));
  });
  protected readonly height = computed(() => Math.min(TALLEST, HEADING + this.rows().rows.length * ROW));
  /** Values that are typed for an option, divided by commas. */
  protected readonly typed = signal<Readonly<Partial<Record<string, string>>>>({});
  /** What the variants that are there get of an option that is new to them. */
  protected readonly given = signal<Readonly<Partial<Record<string, string>>>>({});

  /** The variants that are there, by the names of their values. */
  private readonly present = computed((): Combination[] =>
    this.rows().rows.map(
      (row) =>
        new Map(
          this.options().flatMap((option) => {
            const name = this.nameOf(row, option);
            return name === '' ? [] : [[option.key, name] as const];
          }),
        ),
    ),
  );
  protected readonly grid = computed(() =>
    growGrid(
      this.present(),
      this.used().map(({ key }) => {
        const given = this.given()[key];
        return { option: key, values: this.valuesOf(key), ...(given !== undefined && { given }) };
      }),
    ),
  );
  /** Keys of combinations that are not to be made. */
  protected readonly leftOut = signal<ReadonlySet<string>>(new Set());
  /** What will be made: the grid without what is left out. */
  private readonly wanted = computed(() => {
    const options = this.used().map(({ key }) => key);
    return this.grid().made.filter((one) => !this.leftOut().has(combinationKey(one, options)));
  });
  /** The variants that are there, with what they get of options that are new to them. */
  protected readonly presentThen = computed(() =>
    this.present().map((one): Combination => new Map([...one, ...this.grid().given])),
  );
  protected readonly most = MOST_OPTIONS;
  protected readonly doesSomething = computed(() => this.wanted().length + this.grid().given.size > 0);
  protected readonly effect = computed(() => {
    const { made, given } = this.grid();
    if (made.length === 0 && given.size === 0) return '';
    const wanted = this.wanted().length;
    const says = words.variants.effect(whole(wanted), given.size > 0 ? [...given.values()].join(', ') : '');
    const out = made.length - wanted;
    return [says, out > 0 ? words.variants.leftOut(out) : ''].filter(Boolean).join(' ');
  });

  protected readonly nameOf = (row: SheetRow, option: Field): string => {
    const value = valueInHand(row, option.key) ?? null;
    return row.pending?.[option.key]?.called ?? showValue(option, value, this.asking());
  };

  /** The picture of each variant, where it has one of its own; it is chosen below the grid. */
  private pictureColumn(): SheetColumn {
    const field = this.asking().register.get('ownPicture');
    const draw = (h: H, row: SheetRow) => {
      const id = valueInHand(row, 'ownPicture');
      const picture = this.pictures().find((one) => one.id === id);
      if (!picture) return h('span', { class: 'cell-no-picture' }, '');
      const src = `/pictures/${picture.key}-small.webp`;
      return h('img', { class: 'cell-picture', src, alt: picture.alternative ?? '', width: 22, height: 22 });
    };
    return { ...sheetColumn(field, ''), name: words.variants.ownPicture, width: 78, editable: false, draw };
  }

  private valuesOf(key: FieldKey): string[] {
    return (this.typed()[key] ?? '')
      .split(',')
      .map((value) => value.trim())
      .filter(Boolean);
  }

  /** The values that variants have of an option, as they are told apart. */
  protected valuesThere(option: Field): string {
    return [...new Set(this.rows().rows.map((row) => this.nameOf(row, option)))].filter(Boolean).join(', ');
  }

  /** An option that no variant has yet asks what those that are there get. */
  protected asksGiven(option: Field): boolean {
    return this.valuesThere(option) === '' && this.rows().rows.length > 0 && this.valuesOf(option.key).length > 1;
  }

  protected valuesTyped(option: Field): string[] {
    return this.valuesOf(option.key);
  }

  protected type(key: FieldKey, text: string): void {
    this.typed.update((typed) => ({ ...typed, [key]: text }));
  }

  protected give(key: FieldKey, value: string): void {
    this.given.update((given) => ({ ...given, [key]: value }));
  }

  protected addOption(key: FieldKey): void {
    this.begun.update((begun) => [...begun, key]);
  }

  /** Begins with an option by its name; one that the shop has not is proposed. */
  protected makeOption(box: HTMLInputElement): void {
    const name = box.value.trim();
    if (name === '') return;
    const there = this.options().find((option) => fold(option.name) === fold(name));
    if (there) {
      box.value = '';
      if (!this.used().includes(there)) this.addOption(there.key);
      return;
    }
    let key: FieldKey | undefined;
    const body = { kind: 'option' as const, things: [{ name }] };
    const made = this.api.call(calls.makeThings, { body }).pipe(tap(({ ids }) => (key = ownKey(ids[0]!))));
    this.proposing.run(made, () => {
      box.value = '';
      if (key !== undefined) this.addOption(key);
    });
  }

  protected propose(): void {
    const { given } = this.grid();
    const made = this.wanted();
    const done = () => {
      this.leftOut.set(new Set());
      this.typed.set({});
      this.given.set({});
      this.begun.set([]);
    };
    if (given.size > 0) {
      const edits = this.rows().rows.flatMap(({ id }) =>
        [...given].map(([field, text]) => ({ kind: 'sku' as const, id: id!, field: field as FieldKey, text })),
      );
      const body = { title: words.variants.givenTitle, edits };
      this.proposing.run(this.api.call(calls.editCells, { body }), made.length === 0 ? done : undefined);
    }
    if (made.length === 0) return;
    const body = { product: this.product(), skus: this.newSkus(), codes: this.codes() };
    this.proposing.run(this.api.call(calls.makeSkus, { body }), done);
  }

  /** How the codes of new variants are made, where that is chosen. */
  protected readonly codes = signal<CodesBy | undefined>(undefined);
  /** Letters of each option that new variants have, behind what the codes of the product begin with. */
  protected readonly pattern = computed(() => codePattern(this.used().map(({ name }) => name)));
  protected readonly seeCodes = computed((): SeeCodes | undefined => {
    const skus = this.newSkus();
    if (skus.length === 0) return undefined;
    const product = this.product();
    return (codes) =>
      this.api.call(calls.makeSkus, { body: { product, skus, codes, propose: false } }).pipe(map((seen) => seen.codes));
  });

  private newSkus(): Record<string, string>[] {
    return this.wanted().map((combination) => Object.fromEntries([...combination, ...this.likeFirst()]));
  }

  /** What new variants have of the first one: its price, cost and weight, as nearly all are alike in these. */
  private likeFirst(): [string, string][] {
    const [first] = this.rows().rows;
    if (!first) return [];
    return (['price', 'cost', 'weight'] as const).flatMap((key): [string, string][] => {
      const field = this.asking().register.get(key);
      const value = valueInHand(first, key);
      return value == null ? [] : [[key, showValue(field, value, this.asking())]];
    });
  }

  protected edit(edits: CellEdits): void {
    const redraw = () => this.sheet()?.redraw();
    this.editing.edit(edits, redraw, redraw);
  }

  protected refuse(title: string): void {
    this.editing.refuse(problemHere(title));
  }
}
