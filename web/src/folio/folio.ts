import { Location } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { type AnswerOf, calls } from '@ivory/contract';
import {
  type Asking,
  editValue,
  type Field,
  type FieldKey,
  type FieldValue,
  isEditable,
  isKindKey,
  keptQuestion,
  type KindKey,
  KINDS,
  mendedIn,
  plainText,
  readTemplate,
  SECTION_KEYS,
  shared,
  showValue,
  typeOf,
  written,
} from '@ivory/core';
import { Store } from '@ngrx/store';
import { tap } from 'rxjs';
import { Api } from '../api/api.ts';
import { ChooseThings } from '../lists/chooseThings.ts';
import { offered, takesSeveral } from '../lists/offered.ts';
import { OpenRows } from '../question/openRows.ts';
import { valueInHand } from '../sheet/rows/proposed.ts';
import { whyRefused } from '../sheet/cells/whyRefused.ts';
import { keyAction } from '../keys/register.ts';
import { isTyping } from '../keys/typing.ts';
import { ThingRows } from '../lists/thingRows.ts';
import { ProductOrder } from '../slip/productOrder.ts';
import { ValueTable } from '../slip/valueTable.ts';
import { hand } from '../state/hand.ts';
import { Proposing } from '../state/proposing.ts';
import { inShopAt, moment } from '../api/moment.ts';
import { selectAskingInHand } from '../state/askingInHand.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { ChangedElsewhere } from './changedElsewhere.ts';
import { CategoryAssortments } from './categoryAssortments.ts';
import { CategoryAttributes } from './categoryAttributes.ts';
import { BesideSet } from './product/besideSet.ts';
import { PictureOrder } from '../pictures/pictureOrder.ts';
import { foldedBefore, keepFolded } from './folded.ts';
import { RichText } from './richText.ts';
import { FileList } from './product/fileList.ts';
import { HistoryList } from '../history/historyList.ts';
import { HandOn } from './product/handOn.ts';
import { ProductPrices } from './product/productPrices.ts';
import { ProductView } from './product/productView.ts';
import { ShippingCost } from './product/shippingCost.ts';
import { StoodValue } from './stoodValue.ts';
import { Typing } from './typing.ts';
import { Variants } from './product/variants.ts';

/** The page of one thing that has words of its own: its fields in sections, drawn from the register, and what shoppers read. */
@Component({
  selector: 'ivory-folio',
  host: { '(document:keydown)': 'key($event)' },
  imports: [
    CategoryAssortments,
    CategoryAttributes,
    ChangedElsewhere,
    ChooseThings,
    FileList,
    HandOn,
    HistoryList,
    PictureOrder,
    ProductOrder,
    ProductPrices,
    ProductView,
    ShippingCost,
    RichText,
    StoodValue,
    ValueTable,
    Variants,
  ],
  templateUrl: './folio.html',
  styleUrl: './folio.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Folio {
  /** From the route. */
  readonly kind = input.required<string>();
  readonly id = input.required<string>();

  protected readonly words = words;
  protected readonly whole = whole;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly location = inject(Location);
  private readonly router = inject(Router);
  private readonly besideSet = inject(BesideSet);
  private readonly opener = inject(OpenRows);
  private readonly proposing = inject(Proposing);
  protected readonly asking = this.store.selectSignal(selectAskingInHand);
  protected readonly shop = this.store.selectSignal(session.selectShop);
  private readonly version = this.store.selectSignal(hand.selectVersion);
  private readonly seen = this.store.selectSignal(moment.selectMomentState);
  /** What the page is read again for. */
  private readonly readFor = computed(() => ({
    seen: this.seen(),
    version: this.version(),
    shop: this.shop()?.version,
  }));
  protected readonly isPast = this.store.selectSignal(moment.selectIsPast);

  protected readonly of = computed((): KindKey => {
    const kind = this.kind();
    return isKindKey(kind) && KINDS[kind].hasFolio ? kind : 'shop';
  });
  /** Whose history stands on the page. */
  protected readonly itself = computed(() => ({ [this.of()]: this.id() }));
  protected readonly read = rxResource({
    params: () => ({ kind: this.of(), id: this.id(), ...this.readFor() }),
    stream: ({ params: { kind, id } }) => this.api.call(calls.getThing, { params: { kind, id } }),
  });
  /** While it is read again the page stands as it was. */
  protected readonly detail = linkedSignal({
    source: () => ({
      key: `${this.of()} ${this.id()} ${this.seen().at}`,
      read: this.read.hasValue() ? this.read.value() : undefined,
    }),
    computation: (
      { key, read },
      previous?: { source: { key: string }; value: Detail | undefined },
    ): Detail | undefined => read ?? (previous?.source.key === key && !this.read.error() ? previous.value : undefined),
  });
  protected readonly typing = new Typing();
  /** What was typed and refused, and why. */
  private readonly refused = signal<ReadonlyMap<FieldKey, { readonly text: string; readonly why: string }>>(new Map());

  /** The values of the page: what the proof in hand makes of them, and what stands. */
  protected readonly values = computed(() => {
    const detail = this.detail();
    const standing = new Map<FieldKey, FieldValue>();
    const now = new Map<FieldKey, FieldValue>();
    detail?.columns.forEach((key, i) => {
      standing.set(key, detail.thing.values[i] ?? null);
      now.set(key, detail.thing.values[i] ?? null);
    });
    // What is only proposed will have what things of its kind have at first.
    if (detail?.thing.made)
      for (const { key, initial } of this.asking().register.of(this.of()))
        if (initial !== undefined) now.set(key, initial);
    for (const { field, after } of detail?.pending ?? []) now.set(field, after);
    return { standing, now };
  });
  protected readonly name = computed(() => this.values().now.get('name') ?? '');
  protected readonly path = computed(() =>
    this.of() === 'category' ? this.asking().names.categories.path(this.id()) : KINDS[this.of()].one,
  );
  protected readonly sections = computed(() => {
    const fields = this.asking().register.of(this.of());
    const shopWords = this.of() === 'shop' ? words.folio.shopSections : {};
    const isProduct = this.isProduct();
    const sections = SECTION_KEYS.map((key) => ({
      key: key,
      name: shopWords[key] ?? words.folio.sections[key],
      fields: fields.filter(({ section }) => section === key).map((field) => this.shownField(field)),
    })).filter(({ key, fields }) => fields.length > 0 || (isProduct && (key === 'variants' || key === 'prices')));
    // What a thing is comes first; of a product its words, which are most of the work.
    const facts = sections.filter(({ key }) => key === 'facts');
    if (!isProduct) return [...facts, ...sections.filter(({ key }) => key !== 'facts')];
    const attributes = { key: 'attributes', name: words.folio.ownAttributes, fields: this.attributes() };
    return sections.flatMap((section) => (section.key === 'facts' ? [section, attributes] : [section]));
  });
  protected readonly isProduct = computed(() => this.of() === 'product');
  /** The attributes of a product's categories, those that are needed first, and any other that it has. */
  private readonly attributes = computed(() => {
    const { register, names } = this.asking();
    const { now } = this.values();
    const within = new Set((now.get('category') ?? '').split('|').flatMap((id) => names.categories.within(id)));
    const isIn = (ids: readonly string[]) => ids.some((id) => within.has(id));
    return register
      .of('product')
      .filter(({ key, own }) => own && (own.usedIn.length === 0 || isIn(own.usedIn) || now.get(key) != null))
      .map((field) => ({ ...this.shownField(field), isNeeded: isIn(field.own!.neededIn) }))
      .sort((a, b) => Number(b.isNeeded) - Number(a.isNeeded));
  });
  /** Data of a product besides its fields; undefined for one that is only proposed. */
  private readonly ofProduct = rxResource({
    params: () => {
      const isCleared = this.values().standing.get('clearedAway') === 'yes';
      const isThere = this.isProduct() && this.detail()?.thing.made === false && !isCleared;
      return isThere ? { id: this.id(), ...this.readFor() } : undefined;
    },
    stream: ({ params: { id } }) => this.api.call(calls.getProduct, { params: { id } }),
  });
  protected readonly product = computed(() => (this.ofProduct.hasValue() ? this.ofProduct.value() : undefined));
  /** The name by the pattern of the category, where it differs from the present name. */
  protected readonly namedByPattern = computed(() => {
    const pattern = this.product()?.namePattern;
    const parts = pattern == null ? undefined : readTemplate(pattern, (key) => key);
    if (!parts?.ok) return undefined;
    const name = written(parts.value, (key) => this.textFor(key));
    return name === '' || name === this.name() ? undefined : name;
  });

  /** What a field says in a text: of the product, or of its variants where all say the same. */
  private textFor(key: string): string {
    const { register } = this.asking();
    const field = register.find(key);
    if (!field) return '';
    if (field.kind === 'product') return showValue(field, this.values().now.get(field.key) ?? null, this.asking());
    const values = shared((this.variants()?.rows ?? []).map((row) => valueInHand(row, field.key)));
    return values.kind === 'same' ? showValue(field, values.value, this.asking()) : '';
  }

  private readonly readVariants = rxResource({
    params: () => (this.isProduct() ? { of: this.id(), ...this.readFor() } : undefined),
    stream: ({ params: { of } }) => this.api.call(calls.listThings, { params: { kind: 'sku' }, query: { of } }),
  });
  /** While they are read again they stand as they were. */
  protected readonly variants = linkedSignal({
    source: () => ({ id: this.id(), read: this.readVariants.hasValue() ? this.readVariants.value() : undefined }),
    computation: (
      { id, read },
      previous?: { source: { id: string }; value: ThingRows | undefined },
    ): ThingRows | undefined =>
      read
        ? new ThingRows(untracked(this.asking), { kind: 'sku', of: id }, read)
        : previous?.source.id === id
          ? previous.value
          : undefined,
  });
  private readonly readBeside = rxResource({
    params: () => (this.isProduct() ? { id: this.id() } : undefined),
    stream: ({ params: { id } }) => this.besideSet.of(id),
  });
  protected readonly beside = computed(() => (this.readBeside.hasValue() ? this.readBeside.value() : undefined));
  protected readonly mendedIn = mendedIn;
  /** Alternative texts that the proof in hand gives. */
  private readonly readTexts = rxResource({
    params: () => ({ version: this.version(), shop: this.shop()?.version, typed: this.texts() }),
    stream: () => this.api.call(calls.getHandLines, { params: { kind: 'picture' } }),
  });
  private readonly texts = signal(0);
  protected readonly proposedTexts = computed(
    (): ReadonlyMap<string, string | null> =>
      new Map((this.readTexts.hasValue() ? this.readTexts.value().lines : []).map(({ id, after }) => [id, after])),
  );
  protected readonly view = computed(() => {
    const { now } = this.values();
    const text = (key: FieldKey) => now.get(key) ?? '';
    const name = text('name');
    return {
      name,
      head: text('head')
        .split(/\n\s*\n/)
        .filter(Boolean),
      foot: text('foot')
        .split(/\n\s*\n/)
        .filter(Boolean),
      title: text('pageTitle') || `${name} – ${this.shop()?.name ?? ''}`,
      address: `${this.shop()?.storefront ?? ''}/${text('slug')}`,
      description: text('pageDescription') || text('head').slice(0, 155),
      goods: this.products('first').slice(0, 6),
    };
  });
  /** Shoppers meet it as a page of its own. */
  protected readonly isPage = computed(() => this.of() !== 'shop');
  protected readonly folded = signal<ReadonlySet<string>>(foldedBefore());

  constructor() {
    effect(() => keepFolded(this.folded()));
    effect(() => {
      this.id();
      this.refused.set(new Map());
      this.clears.set(false);
      this.handsOn.set(false);
    });
  }

  private shownField(field: Field) {
    const { key } = field;
    const { standing, now } = this.values();
    const value = now.get(key) ?? null;
    const before = standing.get(key) ?? null;
    const asking = this.asking();
    const refused = this.refused().get(key);
    const { text, elsewhere } = this.typing.shown(key, refused?.text ?? editValue(field, value, asking));
    const changed = value !== before && this.detail()?.thing.made !== true;
    return {
      field,
      key,
      name: field.name,
      editable: this.canEdit(field),
      text,
      elsewhere: elsewhere === undefined ? '' : plainText(elsewhere) || words.folio.changedEmpty,
      why: refused?.why ?? (isUnread(field, value, asking) ? words.folio.ruleUnread : ''),
      changed,
      was: before === null ? words.folio.wasEmpty : words.folio.was(this.shownBefore(field, before)),
      ids: (value ?? '').split('|').filter(Boolean),
      offered: offered(field, asking),
      isSeveral: takesSeveral(field),
      isTable: typeOf(field).table !== undefined,
      isPictures: field.type === 'pictures' || field.type === 'picture',
      isHidden: this.isProduct() && !field.shopperSees,
      isNeeded: false,
      // What is long has room from the beginning; what may be short grows by hand.
      rows: (field.longest ?? 0) > 5_000 ? 7 : 2,
    };
  }

  /** What is set when a thing is made can be set until it is; the address of a product is worked out then. */
  private canEdit(field: Field): boolean {
    // What was is not changed.
    if (this.isPast()) return false;
    const isMade = this.detail()?.thing.made === true;
    if (isMade && this.isProduct() && field.key === 'slug') return false;
    return isEditable(field) || (field.onlyAtCreation === true && isMade);
  }

  private shownBefore(field: Field, before: string): string {
    if (field.type === 'longText' || field.type === 'richText') return `${plainText(before).trim().slice(0, 60)}…`;
    if (field.type === 'products') return words.folio.opens(whole(before.split('|').length));
    return showValue(field, before, this.asking());
  }

  /** The pictures of a field, in their order. */
  protected pictures(key: FieldKey) {
    const all = this.detail()?.pictures ?? [];
    const ids = (this.values().now.get(key) ?? '').split('|').filter(Boolean);
    return ids.flatMap((id) => all.find((one) => one.id === id) ?? []);
  }

  protected setText({ id, text }: { readonly id: string; readonly text: string }): void {
    const edits = [{ kind: 'picture' as const, id, field: 'alternative' as const, text }];
    this.proposing.run(this.api.call(calls.editCells, { body: { title: words.sheet.edited(1), edits } }), () =>
      this.texts.update((n) => n + 1),
    );
  }

  /** Whether it is chosen what of the product others are to have. */
  protected readonly handsOn = signal(false);
  /** Whether it is asked before the product is cleared away. */
  protected readonly clears = signal(false);
  protected readonly isCleared = computed(() => this.values().now.get('clearedAway') === 'yes');

  protected clearAway(): void {
    this.clears.set(false);
    this.propose('clearedAway', 'yes');
  }

  /** A copy with all its variants opens, to be given a name of its own. */
  protected copy(): void {
    let made: string | undefined;
    const body = { product: this.id(), names: [words.folio.copyOf(this.name()).slice(-200)] };
    this.proposing.run(this.api.call(calls.copyProduct, { body }).pipe(tap(({ ids }) => (made = ids[0]))), () =>
      this.go(made),
    );
  }

  /** Where a gap is mended: in its field, or among the variants. */
  protected mend(gap: string): void {
    const key = mendedIn(gap);
    const box = document.getElementById(`folio-${key}`);
    if (box) {
      box.scrollIntoView({ block: 'center' });
      box.focus();
    } else
      this.jump(
        key === 'picture' ? 'pictures' : this.asking().register.find(key)?.kind === 'sku' ? 'variants' : 'facts',
      );
  }

  /** The product before or behind this one in the working set. */
  protected key(event: KeyboardEvent): void {
    if (!this.isProduct() || isTyping(event.target) || event.defaultPrevented) return;
    const action = keyAction('folio', event);
    if (action === 'previous product') this.go(this.beside()?.previous);
    if (action === 'next product') this.go(this.beside()?.next);
  }

  protected go(id: string | null | undefined): void {
    if (id != null) void this.router.navigate(['/folio', 'product', id]);
  }

  /** The products of a field that holds some, in their order, as people tell them apart. */
  protected products(key: FieldKey) {
    const all = this.detail()?.products ?? [];
    const ids = (this.values().now.get(key) ?? '').split('|').filter(Boolean);
    return ids.flatMap((id) => all.find((one) => one.id === id) ?? []);
  }

  protected change(key: FieldKey, text: string, before: string): void {
    if (text !== before) this.propose(key, text);
  }

  protected propose(key: FieldKey, text: string): void {
    this.typing.send(key);
    const edits = [{ kind: this.of(), id: this.id(), field: key, text }];
    const keep = (why: string | undefined) =>
      this.refused.update((refused) => {
        const next = new Map(refused);
        if (why === undefined) next.delete(key);
        else next.set(key, { text, why });
        this.typing.end(key);
        return next;
      });
    this.proposing.run(
      this.api.call(calls.editCells, { body: { title: words.sheet.edited(1), edits } }),
      () => keep(undefined),
      (problem) => keep(whyRefused(problem, { key })),
    );
  }

  protected open(question: string): void {
    this.opener.byQuestion(question);
  }

  protected fold(key: string): void {
    this.folded.update((folded) =>
      folded.has(key) ? new Set([...folded].filter((one) => one !== key)) : new Set([...folded, key]),
    );
  }

  protected jump(key: string): void {
    document.getElementById(`section-${key}`)?.scrollIntoView({ block: 'start' });
  }

  protected back(): void {
    this.location.back();
  }

  protected inShop(address: string): string {
    const { at, group } = this.seen();
    return inShopAt(address, at, group);
  }
}

/** Whether the stored rule refers to things that are gone. */
const isUnread = (field: Field, value: FieldValue, asking: Asking): boolean =>
  field.type === 'rule' && value !== null && keptQuestion(value, asking) === undefined;

type Detail = AnswerOf<typeof calls.getThing>;
