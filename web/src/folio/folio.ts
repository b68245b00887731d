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
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
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
  KINDS,
  type KindKey,
  SECTION_KEYS,
  showValue,
} from '@ivory/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api.ts';
import { ChooseThings } from '../lists/chooseThings.ts';
import { offered, takesSeveral } from '../lists/offered.ts';
import { OpenRows } from '../question/openRows.ts';
import { whyRefused } from '../sheet/whyRefused.ts';
import { ProductOrder } from '../slip/productOrder.ts';
import { hand } from '../state/hand.ts';
import { Proposing } from '../state/proposing.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { ShopTime } from '../words/shopTime.ts';
import { CategoryAssortments } from './categoryAssortments.ts';
import { CategoryAttributes } from './categoryAttributes.ts';

/** The page of one thing that has words of its own: its fields in sections, drawn from the register, and what shoppers read. */
@Component({
  selector: 'ivory-folio',
  imports: [CategoryAssortments, CategoryAttributes, ChooseThings, ProductOrder, RouterLink, ShopTime],
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
  private readonly opener = inject(OpenRows);
  private readonly proposing = inject(Proposing);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly version = this.store.selectSignal(hand.selectVersion);

  protected readonly of = computed((): KindKey => {
    const kind = this.kind();
    return isKindKey(kind) && KINDS[kind].hasFolio ? kind : 'shop';
  });
  protected readonly read = rxResource({
    params: () => ({ kind: this.of(), id: this.id(), version: this.version(), shop: this.shop()?.version }),
    stream: ({ params: { kind, id } }) => this.api.call(calls.getThing, { params: { kind, id } }),
  });
  /** While it is read again the page stands as it was. */
  protected readonly detail = linkedSignal({
    source: () => ({ key: `${this.of()} ${this.id()}`, read: this.read.hasValue() ? this.read.value() : undefined }),
    computation: (
      { key, read },
      previous?: { source: { key: string }; value: Detail | undefined },
    ): Detail | undefined => read ?? (previous?.source.key === key && !this.read.error() ? previous.value : undefined),
  });
  /** What was typed and refused, and why. */
  private readonly refused = signal<ReadonlyMap<FieldKey, { readonly text: string; readonly why: string }>>(new Map());

  /** The values of the page: what the proof in hand makes of them, and what stands. */
  private readonly values = computed(() => {
    const detail = this.detail();
    const standing = new Map<FieldKey, FieldValue>();
    const now = new Map<FieldKey, FieldValue>();
    detail?.columns.forEach((key, i) => {
      standing.set(key, detail.thing.values[i] ?? null);
      now.set(key, detail.thing.values[i] ?? null);
    });
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
    return SECTION_KEYS.map((key) => ({
      key,
      name: shopWords[key] ?? words.folio.sections[key],
      fields: fields.filter(({ section }) => section === key).map((field) => this.shownField(field)),
    })).filter(({ fields }) => fields.length > 0);
  });
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
    });
  }

  private shownField(field: Field) {
    const { key } = field;
    const { standing, now } = this.values();
    const value = now.get(key) ?? null;
    const before = standing.get(key) ?? null;
    const asking = this.asking();
    const refused = this.refused().get(key);
    const changed = value !== before && this.detail()?.thing.made !== true;
    return {
      field,
      key,
      name: field.name,
      editable: isEditable(field) || (field.onlyAtFirst && this.detail()?.thing.made) || false,
      text: refused?.text ?? editValue(field, value, asking),
      why: refused?.why ?? (isUnread(field, value, asking) ? words.folio.ruleUnread : ''),
      changed,
      was: before === null ? words.folio.wasEmpty : words.folio.was(this.shownBefore(field, before)),
      ids: (value ?? '').split('|').filter(Boolean),
      offered: offered(field, asking),
      isSeveral: takesSeveral(field),
    };
  }

  private shownBefore(field: Field, before: string): string {
    if (field.type === 'longText') return `${before.slice(0, 60)}…`;
    if (field.type === 'products') return words.folio.opens(whole(before.split('|').length));
    return showValue(field, before, this.asking());
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
    const edits = [{ kind: this.of(), id: this.id(), field: key, text }];
    const keep = (why: string | undefined) =>
      this.refused.update((refused) => {
        const next = new Map(refused);
        if (why === undefined) next.delete(key);
        else next.set(key, { text, why });
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
}

/** Whether a rule is kept that asks for what is not in the shop any more. */
const isUnread = (field: Field, value: FieldValue, asking: Asking): boolean =>
  field.type === 'rule' && value !== null && keptQuestion(value, asking) === undefined;

type Detail = AnswerOf<typeof calls.getThing>;

const FOLDED = 'ivory folded';
function foldedBefore(): ReadonlySet<string> {
  try {
    return new Set(JSON.parse(localStorage.getItem(FOLDED) ?? '[]') as string[]);
  } catch {
    return new Set();
  }
}
function keepFolded(folded: ReadonlySet<string>): void {
  localStorage.setItem(FOLDED, JSON.stringify([...folded]));
}
