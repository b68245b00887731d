import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { calls } from '@ivory/contract';
import {
  type Asking,
  editValue,
  entriesOf,
  type Field,
  type FieldKey,
  isEditable,
  isMarkup,
  mendedIn,
  plainText,
  quote,
  type Register,
  shared,
  showMoney,
  showValue,
  slipFields,
  typeOf,
} from '@ivory/core';
import { Store } from '@ngrx/store';
import { debounceTime, map, switchMap } from 'rxjs';
import { Api } from '../api/api.ts';
import { Bars } from '../charts/bars.ts';
import { byQuestionOrCount, marginBars, type OpensBar, priceBars } from '../charts/spreadBars.ts';
import { HistoryList } from '../history/historyList.ts';
import { OpenRows } from '../question/openRows.ts';
import { cellText } from '../sheet/cells/cell.ts';
import { sheetColumn } from '../sheet/columns/columns.ts';
import { PriceAhead } from './priceAhead.ts';
import { isMixed, proposed, valueInHand } from '../sheet/rows/proposed.ts';
import { type SheetRow } from '../sheet/rows/sheetRows.ts';
import { inShopAt, moment } from '../api/moment.ts';
import { hand } from '../state/hand.ts';
import { Proposing } from '../state/proposing.ts';
import { whenIdle } from '../state/whenIdle.ts';
import { workingSet } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { share, whole } from '../words/numbers.ts';
import { sellingSentence } from '../words/selling.en.ts';
import { ShopDays } from '../state/shopDays.ts';
import { ShopTime } from '../state/shopTime.ts';
import { ProductOrder } from './productOrder.ts';
import { ToldToOutlets } from './toldToOutlets.ts';
import { ValueTable } from './valueTable.ts';

/** The fields that the slip reads in rows, besides those that the shop makes. */
export const slipColumns = (register: Register): readonly FieldKey[] => [
  ...slipFields(register).map(({ key }) => key),
  'gap',
];
const SETTLE = 120;

/** The row or rows in hand in detail, editable; with none in hand, what the working set looks like. */
@Component({
  selector: 'ivory-slip',
  imports: [Bars, HistoryList, PriceAhead, ProductOrder, RouterLink, ShopDays, ShopTime, ToldToOutlets, ValueTable],
  templateUrl: './slip.html',
  styleUrl: './slip.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Slip {
  readonly inHand = input.required<readonly SheetRow[]>();
  readonly asking = input.required<Asking>();
  readonly edited = output<{ rows: readonly SheetRow[]; key: FieldKey; text: string }>();

  protected readonly words = words;
  protected readonly share = share;
  protected readonly sentence = sellingSentence;
  protected readonly whole = whole;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  protected readonly isPast = this.store.selectSignal(moment.selectIsPast);
  private readonly seen = this.store.selectSignal(moment.selectMomentState);
  private readonly opener = inject(OpenRows);
  private readonly proposing = inject(Proposing);
  private readonly question = this.store.selectSignal(workingSet.selectQuestion);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);
  protected readonly version = this.store.selectSignal(hand.selectProof);

  protected readonly rows = computed(() => {
    const rows = this.inHand();
    return rows.every((row) => row.landed !== undefined) ? rows : [];
  });
  /** More rows in hand than are on this page: they are changed by a rule. */
  protected readonly tooMany = computed(() => (this.rows().length < this.inHand().length ? this.inHand().length : 0));
  protected readonly names = computed(() => this.asking().names);
  protected readonly one = computed(() => (this.rows().length === 1 ? this.rows()[0] : undefined));
  /** Whose history stands in the slip: of a row of several SKUs that of their product. */
  protected readonly things = computed(() => {
    const { id, productId, several } = this.one() ?? {};
    return { ...(id !== undefined && !several && { sku: id }), ...(productId !== undefined && { product: productId }) };
  });
  /** The fields that every shop has, then the options, then the attributes of the categories in which the rows lie. */
  private readonly shownFields = computed((): Field[] => {
    const { register, names } = this.asking();
    const builtIn = slipFields(register);
    const own = register.goods.filter(({ own }) => own);
    const within = new Set(
      this.rows().flatMap((row) =>
        (row.landed?.category ?? '').split('|').flatMap((id) => names.categories.within(id)),
      ),
    );
    const isUsed = ({ key, own }: Field) =>
      own?.of === 'option' ||
      own!.usedIn.length === 0 ||
      own!.usedIn.some((id) => within.has(id)) ||
      this.rows().some((row) => row.landed?.[key] != null);
    return [...builtIn, ...own.filter(isUsed)];
  });
  protected readonly fields = computed(() =>
    this.shownFields().map((target) => {
      const { key } = target;
      const values = shared(this.rows().map((row) => valueInHand(row, key)));
      const mixed = this.mixedText(key) ?? (values.kind === 'differ' ? words.slip.values(values.count) : undefined);
      const same = values.kind === 'same' ? values.value : null;
      const isOfSeveral = this.rows().length > 1 || this.one()?.several !== undefined;
      return {
        key,
        name: sheetColumn(target, this.names().currency.code, this.isPast()).name,
        editable: isEditable(target) && !this.isPast() && !(key === 'code' && isOfSeveral),
        changed: this.rows().some((row) => proposed(row, key) !== undefined),
        text: mixed === undefined ? (this.calledInHand(key) ?? editValue(target, same, this.asking())) : '',
        hint: mixed ?? '',
        shown: mixed ?? cellText(target, same, this.asking()),
      };
    }),
  );

  /** What a field holds of SKUs that stand together in one row and differ in it. */
  private mixedText(key: FieldKey): string | undefined {
    const rows = this.rows();
    if (!rows.some((row) => isMixed(row, key))) return undefined;
    return rows.length === 1 ? String(rows[0]![key] ?? '') : words.slip.severalValues;
  }

  /** What a value is called that only the proof makes. */
  private calledInHand(key: FieldKey): string | null | undefined {
    return this.rows()[0]?.pending?.[key]?.called;
  }

  private readonly wanted = toSignal(
    toObservable(
      computed(() => ({
        id: this.one()?.several ? undefined : this.one()?.id,
        after: this.version(),
        landed: this.answer(),
      })),
    ).pipe(debounceTime(SETTLE)),
  );
  protected readonly sku = rxResource({
    params: () => (this.wanted()?.id === undefined ? undefined : this.wanted()),
    stream: ({ params }) => this.api.call(calls.getSku, { params: { id: params.id! } }),
  });
  protected readonly detail = computed(() => (this.sku.hasValue() ? this.sku.value() : undefined));
  /** As the proof in hand makes it, or else as it stands. */
  protected readonly description = computed(() => {
    const detail = this.detail();
    const proposal = detail?.pending.find(({ field: key }) => key === 'description');
    const text = (proposal ? proposal.after : detail?.description) ?? '';
    // What is marked up is edited in the folio, where it looks as it will.
    return {
      text: isMarkup(text) ? plainText(text).trim() : text,
      isMarkup: isMarkup(text),
      changed: proposal !== undefined,
    };
  });
  /** What goes well with the product, as the proof in hand makes it. */
  protected readonly goesWith = computed(() => {
    const detail = this.detail();
    const proposal = detail?.pending.find(({ field }) => field === 'goesWith');
    if (!detail || !proposal) return detail?.goesWith ?? [];
    const all = [...detail.goesWith, ...detail.suggested, ...detail.proposedWith];
    return (proposal.after ?? '').split('|').flatMap((id) => all.find((one) => one.id === id) ?? []);
  });
  protected readonly partsField = computed(() => this.asking().register.get('parts'));
  /** The parts of a set as they are typed: as the proof in hand makes them, or else as they stand. */
  protected readonly parts = computed(() => {
    const detail = this.detail();
    const proposal = detail?.pending.find(({ field }) => field === 'parts');
    if (proposal) return { text: proposal.called ?? '', changed: true };
    const { table } = typeOf(this.partsField());
    return {
      text: table!.textOf((detail?.parts ?? []).map(({ code, times }) => [code, String(times)])),
      changed: false,
    };
  });
  /** The devices that the product fits; they are edited in its folio. */
  protected readonly fits = computed(() => {
    const detail = this.detail();
    const proposal = detail?.pending.find(({ field }) => field === 'fits');
    const value = proposal ? proposal.after : detail?.row[3 + detail.columns.indexOf('fits')];
    return value ? entriesOf(showValue(this.asking().register.get('fits'), value, this.asking())) : undefined;
  });
  /** What is put beside this product gets it beside itself too. */
  protected readonly bothWays = signal(false);
  protected readonly suggested = computed(() => {
    const there = new Set(this.goesWith().map(({ id }) => id));
    return (this.detail()?.suggested ?? []).filter(({ id }) => !there.has(id));
  });
  protected readonly gaps = computed(() => {
    // What is missing today says nothing of a past moment.
    const keys = this.isPast() ? [] : (this.one()?.landed?.gap ?? '').split('|').filter(Boolean);
    const field = this.asking().register.get('gap');
    return keys.map((key) => ({ key, name: showValue(field, key, this.asking()), mendedIn: mendedIn(key) }));
  });

  protected readonly isEmpty = computed(() => this.answer()?.counts.skus === 0);
  private readonly looked = toSignal(
    toObservable(computed(() => (this.inHand().length === 0 && !this.isEmpty() ? this.answer() : null))).pipe(
      debounceTime(SETTLE),
      switchMap((answer) => whenIdle().pipe(map(() => answer))),
    ),
  );
  protected readonly outlook = rxResource({
    params: () => this.looked() ?? undefined,
    stream: ({ params }) =>
      this.api.call(calls.previewRule, { body: { question: params.question, rule: { steps: [], guards: [] } } }),
  });
  protected readonly charts = computed(() => {
    if (!this.outlook.hasValue()) return undefined;
    const { spread } = this.outlook.value();
    const opens = byQuestionOrCount(this.question());
    return (
      spread && {
        margin: share(spread.marginBefore),
        prices: priceBars(spread.prices, opens, false),
        margins: marginBars(spread.margins, opens, false),
      }
    );
  });

  protected money(minorUnits: string): string {
    return showMoney(BigInt(minorUnits), this.names().currency);
  }

  protected accept(code: string): void {
    this.setGoesWith([...this.goesWith().map((one) => one.code), code].join(' | '));
  }

  /** The products that go well with this one, by codes; with those that are new it goes well too, where both ways are wanted. */
  protected setGoesWith(text: string): void {
    const there = new Set(this.goesWith().map(({ code }) => code));
    const added = text.split(' | ').filter((code) => code !== '' && !there.has(code));
    this.edited.emit({ rows: this.rows(), key: 'goesWith', text });
    const own = this.one()?.landed?.code;
    if (!this.bothWays() || own == null || added.length === 0) return;
    const step = { do: 'add to' as const, field: 'goesWith' as const, values: own };
    const body = { question: `code is ${added.map(quote).join(', ')}`, step };
    this.proposing.run(this.api.call(calls.putStep, { body }));
  }

  /** The product is excluded from an assortment by hand, even where its rule includes it. */
  protected keepOut(name: string): void {
    const product = this.one()?.productId;
    if (product === undefined) return;
    const step = { do: 'add to' as const, field: 'keptOut' as const, values: name };
    this.proposing.run(this.api.call(calls.putStep, { body: { question: '', products: [product], step } }));
  }

  /** A value that is a table of its own. */
  protected setText(key: FieldKey, text: string): void {
    this.edited.emit({ rows: this.rows(), key, text });
  }

  protected change(key: FieldKey, input: HTMLInputElement | HTMLTextAreaElement, before: string): void {
    if (input.value !== before) this.edited.emit({ rows: this.rows(), key, text: input.value });
  }

  protected back(input: HTMLInputElement | HTMLTextAreaElement, before: string): void {
    input.value = before;
    input.blur();
  }

  protected jump(key: FieldKey): void {
    document.getElementById(`slip-${key}`)?.focus();
  }

  protected open(opens: OpensBar): void {
    if ('question' in opens) this.opener.byQuestion(opens.question, '/prices');
  }

  protected inShop(address: string): string {
    const { at, group } = this.seen();
    return inShopAt(address, at, group);
  }
}
