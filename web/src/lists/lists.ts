import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { calls } from '@ivory/contract';
import {
  fold,
  type FieldKey,
  isKindKey,
  isListKind,
  isTree,
  KINDS,
  type ListKind,
  OWN_TYPES,
  type OwnTypeKey,
} from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { Api, detailsOf, problemHere } from '../api/api.ts';
import { keyAction } from '../keys/register.ts';
import { isTyping } from '../keys/typing.ts';
import { SelectLabel } from '../theme/selectLabel.ts';
import { OpenRows } from '../question/openRows.ts';
import { pastedColumn } from '../sheet/cells/blocks.ts';
import { type CellEdits } from '../sheet/cells/cellBlocks.ts';
import { type H, type SheetColumn, sheetColumn } from '../sheet/columns/columns.ts';
import { Editing } from '../sheet/cells/editing.ts';
import { Sheet } from '../sheet/sheet.ts';
import { valueInHand } from '../sheet/rows/proposed.ts';
import { SheetFocus } from '../sheet/keys/sheetFocus.ts';
import { type SheetRow } from '../sheet/rows/sheetRows.ts';
import { hand } from '../state/hand.ts';
import { PastedPaths } from '../state/pastedPaths.ts';
import { HandActions } from '../state/handActions.ts';
import { InTurn } from '../state/inTurn.ts';
import { Proposing } from '../state/proposing.ts';
import { selectAskingInHand } from '../state/askingInHand.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { ThingRows } from './thingRows.ts';
import { ThingSlip } from './thingSlip.ts';

/** As many as one call makes. */
const MOST_NAMES = 1_000;

/** What a person is about to do with the things in hand, before it is proposed. */
type Asking = 'merge' | 'delete' | undefined;

/** The lists of the shop: brands, tags, options, attributes and other kinds that goods refer to, each as a sheet. */
@Component({
  selector: 'ivory-lists',
  host: { '(document:keydown)': 'key($event)' },
  imports: [FormsModule, RouterLink, NzButtonModule, NzSelectModule, SelectLabel, Sheet, ThingSlip],
  templateUrl: './lists.html',
  styleUrls: ['../workbench/workbench.less', '../spine/spine.less', './lists.less'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Lists {
  /** From the route. */
  readonly kind = input<string>();
  readonly of = input<string>();

  protected readonly words = words;
  protected readonly whole = whole;
  protected readonly KINDS = KINDS;
  protected readonly types = OWN_TYPES;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly inTurn = inject(InTurn);
  private readonly proposing = inject(Proposing);
  private readonly pastedPaths = inject(PastedPaths);
  private readonly editing = inject(Editing);
  private readonly opener = inject(OpenRows);
  private readonly router = inject(Router);
  private readonly sheetFocus = inject(SheetFocus);
  private readonly sheet = viewChild(Sheet);
  private readonly newName = viewChild<ElementRef<HTMLInputElement>>('newName');
  protected readonly asking = this.store.selectSignal(selectAskingInHand);
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly version = this.store.selectSignal(hand.selectVersion);

  protected readonly names = computed(() => this.asking().names);
  protected readonly list = computed(
    (): { readonly kind: ListKind; readonly of?: string } => {
      const [kind, of] = [this.kind() ?? '', this.of()];
      if (!isKindKey(kind) || !isListKind(kind)) return { kind: 'brand' };
      return kind === 'choice' && of !== undefined ? { kind, of } : { kind };
    },
    { equal: (a, b) => a.kind === b.kind && a.of === b.of },
  );
  /** Options and attributes that have values of their own. */
  protected readonly withChoices = computed(() =>
    this.asking().register.goods.flatMap(({ own, name, refersTo }) =>
      own && refersTo?.kind === 'choice' ? [{ id: own.id, name }] : [],
    ),
  );
  protected readonly title = computed(() => {
    const { kind, of } = this.list();
    const name = this.withChoices().find(({ id }) => id === of)?.name;
    return name === undefined ? KINDS[kind].many : words.lists.valuesOf(name);
  });
  private readonly counted = rxResource({
    params: () => ({ version: this.version(), shop: this.shop() }),
    stream: () => this.api.call(calls.countThings),
  });
  /** Values are reached by their option or attribute. */
  protected readonly kinds = computed(() =>
    (this.counted.hasValue() ? this.counted.value().kinds : []).filter(({ kind }) => kind !== 'choice'),
  );
  /** Rises when this page proposed something that its rows do not know. */
  private readonly proposed = signal(0);
  protected readonly things = rxResource({
    params: () => ({ ...this.list(), version: this.version(), shop: this.shop(), proposed: this.proposed() }),
    stream: ({ params: { kind, of } }) =>
      this.api.call(calls.listThings, { params: { kind }, query: of === undefined ? {} : { of } }),
  });
  protected readonly search = signal('');
  /** While a list is read again its rows stand as they were: the cell that has the focus keeps it. */
  protected readonly rows = linkedSignal({
    source: () => ({
      list: this.list(),
      answer: this.things.hasValue() ? this.things.value() : undefined,
      wanted: fold(this.search()),
    }),
    computation: (
      { list, answer, wanted },
      previous?: { source: { list: object }; value: ThingRows | undefined },
    ): ThingRows | undefined => {
      if (!answer) return previous?.source.list === list && !this.things.error() ? previous.value : undefined;
      const { columns, things, pending } = answer;
      const name = columns.indexOf('name');
      const found =
        wanted === '' ? things : things.filter(({ values, made }) => made || fold(values[name] ?? '').includes(wanted));
      // Rows know what was proposed since they were read: they are made afresh only when they are read again.
      return new ThingRows(untracked(this.asking), list, { columns, things: found, pending });
    },
  });
  protected readonly columns = computed((): SheetColumn[] => {
    const rows = this.rows();
    if (!rows) return [];
    const shown = rows.shownFields.map((field) => {
      const column = sheetColumn(field, this.names().currency.code);
      // A type is set while a thing is only proposed, in the slip.
      return field.key === 'name' ? { ...column, width: 240 } : column;
    });
    return [shown[0]!, this.usedColumn(rows), ...shown.slice(1)];
  });
  protected readonly inHand = signal<readonly SheetRow[]>([]);
  private readonly idsInHand = computed(() =>
    this.inHand()
      .map(({ id }) => id)
      .join(' '),
  );
  /** What was pressed and not yet confirmed. It stands while the list is read again, until other things are in hand. */
  protected readonly wants = linkedSignal<Asking>(() => {
    this.idsInHand();
    return undefined;
  });
  protected readonly into = signal<string | null>(null);
  protected readonly type = signal<OwnTypeKey>('text');
  protected readonly unit = signal('');
  protected readonly isMaking = signal(false);
  /** Whether what lies below the things in hand is in hand with them, until other things are. */
  protected readonly isWithBelow = linkedSignal(() => {
    this.idsInHand();
    return false;
  });
  /** What lies below the things in hand, where they are of a tree, and is not in hand itself. */
  protected readonly below = computed(() =>
    isTree(this.list().kind) ? (this.rows()?.below(this.inHand()) ?? []).filter((row) => this.stands(row)) : [],
  );
  /** Things that stand in the shop and are in hand: what is only proposed is undone. */
  protected readonly standing = computed(() => [
    ...this.inHand().filter((row) => this.stands(row)),
    ...(this.isWithBelow() ? this.below() : []),
  ]);
  /** The question before a deletion: how many goods have the things, and what happens to them. */
  protected readonly consequence = computed(() => {
    // What a thing of a tree is told to have includes what lies below it.
    const topmost = this.rows()?.topmost(this.standing()) ?? [];
    const products = topmost.reduce((sum, row) => sum + (this.rows()?.thingOf(row)?.used?.products ?? 0), 0);
    const { kind } = this.list();
    const what =
      this.standing().length === 1
        ? String(this.standing()[0]!['name'])
        : `${this.standing().length} ${KINDS[kind].many}`;
    const things = this.standing().flatMap((row) => this.rows()?.thingOf(row)?.usedBy ?? []);
    const then = words.lists.thenHave[kind];
    return words.lists.deleteAsks(what, this.standing().length, products === 0 ? '' : whole(products), then, things);
  });
  protected readonly others = computed(() => {
    const chosen = new Set(this.standing().map(({ id }) => id));
    return (this.rows()?.rows ?? []).filter((row) => !chosen.has(row.id) && !this.rows()?.thingOf(row)?.made);
  });

  constructor() {
    effect(() => {
      if (!this.rows()?.rows.length) this.inHand.set([]);
    });
    effect(() => {
      this.list();
      untracked(() => this.search.set(''));
    });
  }

  private stands(row: SheetRow): boolean {
    const thing = this.rows()?.thingOf(row);
    return thing !== undefined && !thing.made && !thing.goes;
  }

  /** How many goods have a thing: the number opens them. */
  private usedColumn(rows: ThingRows): SheetColumn {
    const field = {
      ...rows.shownFields[0]!,
      key: 'used' as FieldKey,
      name: words.lists.used,
      store: { in: 'computed' as const },
    };
    return {
      key: field.key,
      field,
      name: words.lists.used,
      width: 92,
      numeric: true,
      editable: false,
      draw: (h: H, row: SheetRow) => {
        const thing = rows.thingOf(row);
        if (thing?.made) return h('span', { class: 'soft' }, words.lists.new);
        if (thing?.goes) return h('span', { class: 'stop-text' }, words.lists.gone);
        const used = thing?.used;
        if (!used) return h('span', {}, '');
        if (used.products === 0) return h('span', { class: 'soft' }, '0');
        const open = () => this.open(used.question);
        return h('button', { type: 'button', class: 'opens', onClick: open }, whole(used.products));
      },
    };
  }

  /** The page of the thing in hand, where its kind has one. */
  protected key(event: KeyboardEvent): void {
    if (isTyping(event.target) || this.sheetFocus.hasCell() || event.defaultPrevented) return;
    const [row] = this.inHand();
    const { kind } = this.list();
    if (keyAction('everywhere', event) === 'folio' && row?.id !== undefined && KINDS[kind].hasFolio)
      void this.router.navigateByUrl(`/folio/${kind}/${row.id}`);
  }

  protected open(question: string): void {
    this.opener.byQuestion(question);
  }

  protected edit(edits: CellEdits): void {
    this.editing.edit(
      edits,
      () => this.sheet()?.redraw(),
      () => this.inHand.update((inHand) => [...inHand]),
    );
  }

  protected editFromSlip(edit: { rows: readonly SheetRow[]; key: FieldKey; text: string }): void {
    const { key, text } = edit;
    this.edit({ how: 'edited', of: this.rows()!, cells: edit.rows.map((row) => ({ row, key, text })) });
  }

  protected refuseWith(title: string): void {
    this.editing.refuse(problemHere(title));
  }

  /** Several names, pasted with one in each line, are proposed at once; of categories their paths. */
  protected paste(event: ClipboardEvent): void {
    const { kind } = this.list();
    if (kind === 'category') return void this.pastedPaths.paste(event, null);
    const lines = pastedColumn(event.clipboardData?.getData('text/plain') ?? '');
    const names = [...new Map(lines.map((name) => [fold(name), name])).values()];
    if (names.length < 2) return;
    event.preventDefault();
    if (names.length > MOST_NAMES) return this.editing.refuse(problemHere(words.lists.tooMany(whole(names.length))));
    this.makeAll(names);
  }

  /** Proposes a new thing with the typed name; of a category also by its path. */
  protected make(): void {
    const field = this.newName()!.nativeElement;
    const name = field.value.trim();
    if (name === '' || this.isMaking()) return;
    const done = () => {
      field.value = '';
      field.focus();
    };
    if (this.list().kind !== 'category') return this.makeAll([name], done);
    this.isMaking.set(true);
    const over = () => this.isMaking.set(false);
    this.pastedPaths.make(name, null, { taken: () => (over(), done()), refused: over });
  }

  private makeAll(names: readonly string[], done?: () => void): void {
    const { kind, of } = this.list();
    this.isMaking.set(true);
    const more: Record<string, string> = kind === 'attribute' ? { type: this.typeName(), unit: this.unit() } : {};
    const body = { kind, of: of ?? null, things: names.map((name) => ({ name, ...more })) };
    this.inTurn.run(this.api.call(calls.makeThings, { body })).subscribe({
      next: ({ proof }) => {
        this.isMaking.set(false);
        done?.();
        this.store.dispatch(HandActions.edited({ proof }));
        this.proposed.update((n) => n + 1);
      },
      error: (error: unknown) => {
        this.isMaking.set(false);
        this.editing.refuse(detailsOf(error));
      },
    });
  }

  /** Moves the things in hand one place up or down among those that hang on the same. */
  protected step(by: -1 | 1): void {
    const hung = (row: SheetRow) => valueInHand(row, 'parent') ?? '';
    const inHand = this.inHand();
    const first = inHand[0];
    if (!first) return;
    const siblings = (this.rows()?.rows ?? []).filter((row) => hung(row) === hung(first));
    const moving = new Set(inHand.map(({ id }) => id));
    const rest = siblings.filter(({ id }) => !moving.has(id));
    const before = siblings.slice(0, siblings.indexOf(first)).filter(({ id }) => !moving.has(id)).length;
    const to = before + by;
    if (to < 0 || to > rest.length) return;
    const ids = inHand.filter((row) => hung(row) === hung(first)).map(({ id }) => id!);
    const body = { kind: this.list().kind, ids, into: hung(first) || null, before: rest[to]?.id ?? null };
    this.proposing.run(this.api.call(calls.moveThings, { body }));
  }

  private typeName(): string {
    return OWN_TYPES.find(({ key }) => key === this.type())!.name;
  }

  /** Proposes that the things in hand go; what refers to them refers to `into` from then on. */
  protected remove(into: string | null): void {
    const ids = this.standing().map(({ id }) => id!);
    const body = { kind: this.list().kind, ids, into };
    this.wants.set(undefined);
    this.into.set(null);
    this.proposing.run(this.api.call(calls.removeThings, { body }));
  }
}
