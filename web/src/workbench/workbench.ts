import { BreakpointObserver } from '@angular/cdk/layout';
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
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { type Answer, calls, type RowsOf, type Desk } from '@ivory/contract';
import { conditions, type FieldKey, readQuestion } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { lastValueFrom, map } from 'rxjs';
import { Api, detailsOf, problemHere } from '../api/api.ts';
import { FileChoose } from '../exchange/fileChoose.ts';
import { NewRows } from '../folio/product/newRows.ts';
import { keyAction } from '../keys/register.ts';
import { isTyping } from '../keys/typing.ts';
import { QuestionLine } from '../question/questionLine.ts';
import { sheetColumn } from '../sheet/columns/columns.ts';
import { fitted, keepLayout, keptLayout, type Layout, withoutColumn } from '../sheet/columns/layout.ts';
import { SheetFocus } from '../sheet/keys/sheetFocus.ts';
import { type CellEdits, type CellText } from '../sheet/cells/cellBlocks.ts';
import { Editing } from '../sheet/cells/editing.ts';
import { type PicturesOnRow } from '../sheet/rows/rowDrop.ts';
import { cellsIn, type Chosen, totalsOf } from '../sheet/cells/chosen.ts';
import { FindReplace } from '../sheet/replace/findReplace.ts';
import { Sheet } from '../sheet/sheet.ts';
import { type MenuChoice, SheetMenu } from '../sheet/columns/sheetMenu.ts';
import { GoodsRows } from '../sheet/rows/goodsRows.ts';
import { ProductRows } from '../sheet/rows/productRows.ts';
import { type SheetRow } from '../sheet/rows/sheetRows.ts';
import { DeskLayout } from './deskLayout.ts';
import { narrowed } from './narrowed.ts';
import { HandPicked } from './handPicked.ts';
import { OneStep } from './oneStep.ts';
import { sortedBy, toggled } from './sortedBy.ts';
import { Slip, slipColumns } from '../slip/slip.ts';
import { Spine } from '../spine/spine.ts';
import { TakeOut } from '../exchange/takeOut.ts';
import { hand } from '../state/hand.ts';
import { Proposing } from '../state/proposing.ts';
import { moment } from '../api/moment.ts';
import { session } from '../state/session.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** Windows in which the slip would leave no room for prices. */
const NARROW = '(max-width: 1099px)';

/** The workbench: spine, question, sheet and slip. Range, Prices and Stock are this workbench with other columns and verbs. */
@Component({
  selector: 'ivory-workbench',
  host: { '(document:keydown)': 'key($event)' },
  imports: [
    NzButtonModule,
    DeskLayout,
    FindReplace,
    FileChoose,
    NewRows,
    QuestionLine,
    OneStep,
    RouterLink,
    Sheet,
    SheetMenu,
    Slip,
    Spine,
    TakeOut,
  ],
  templateUrl: './workbench.html',
  styleUrl: './workbench.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Workbench {
  /** From the route. */
  readonly desk = input.required<Desk>();

  protected readonly words = words;
  protected readonly rowsOf: readonly RowsOf[] = ['products', 'SKUs'];
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly editing = inject(Editing);
  private readonly proposing = inject(Proposing);
  private readonly router = inject(Router);
  protected readonly sheet = viewChild(Sheet);
  protected readonly menu = viewChild.required(SheetMenu);
  private readonly picked = inject(HandPicked);
  private readonly sheetFocus = inject(SheetFocus);

  protected readonly set = this.store.selectSignal(workingSet.selectWorkingSetState);
  protected readonly asking = this.store.selectSignal(session.selectAsking);
  protected readonly names = computed(() => this.asking().names);
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly version = this.store.selectSignal(hand.selectVersion);
  protected readonly isPast = this.store.selectSignal(moment.selectIsPast);
  private readonly keysOfCells = computed(() => words.sheet[this.isPast() ? 'pastHasKeys' : 'cellHasKeys']);

  protected readonly layout = linkedSignal<Layout>(() => keptLayout(this.desk(), this.asking().register));
  protected readonly columns = computed(() => {
    const { keys, widths, locked, staying } = this.layout();
    const { register, names } = this.asking();
    const isPast = this.isPast();
    return keys.flatMap((key, place) => {
      const field = register.find(key);
      if (!field) return [];
      const column = sheetColumn(field, names.currency.code, isPast);
      const isLocked = locked.includes(key);
      const editable = column.editable && !isLocked;
      return [{ ...column, width: widths[key] ?? column.width, editable, locked: isLocked, stays: place < staying }];
    });
  });
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);
  /** Made anew with an answer, and not with what else becomes known of the set: the sheet would begin again. */
  protected readonly rows = linkedSignal<Answer | undefined, GoodsRows | undefined>({
    source: () => (this.shop() && this.answer()) ?? undefined,
    computation: (answer, previous) => {
      if (!answer) return undefined;
      const asking = this.asking();
      const { sort, columns } = untracked(this.set);
      const { question, of, counts } = answer;
      const asked = { question, sort, of, columns: columns ?? answer.columns };
      // What was folded out before is so again.
      const rows =
        of === 'products'
          ? new ProductRows(this.api, asking, asked, counts.products).keepOut(previous?.value)
          : new GoodsRows(this.api, asking, asked, counts.skus);
      rows.fill(0, answer);
      return rows;
    },
  });
  protected readonly inHand = signal<readonly SheetRow[]>([]);
  /** The cells that are chosen, and what their numbers come to. */
  protected readonly chosen = signal<Chosen | undefined>(undefined);
  protected readonly totals = computed(() => {
    const chosen = this.chosen();
    // What is typed into them shows here too.
    this.inHand();
    if (!chosen || chosen.of !== this.rows() || cellsIn(chosen) < 2) return undefined;
    const totals = totalsOf(chosen);
    return totals && { ...totals, numbers: words.sheet.totals(whole(cellsIn(chosen)), whole(totals.numbers)) };
  });
  protected readonly finding = signal(false);
  /** The product of the last row in hand: after Esc its page can still be opened. */
  private lastInHand: string | undefined;
  /** Cells were edited while an answer was on its way, which may not know of them. */
  private isBehind = false;
  /** The picture that is on its way to the shop. */
  private readonly sending = signal('');
  private readonly isNarrow = inject(BreakpointObserver).observe(NARROW);
  /** Where the window is narrow the slip is folded, until it is asked for. */
  protected readonly slipOpen = linkedSignal(
    toSignal(this.isNarrow.pipe(map(({ matches }) => !matches)), { requireSync: true }),
  );
  protected readonly choosing = signal(false);
  /** Whether the step for all of the set is open. */
  protected readonly stepping = signal(false);

  /** Whether it is chosen how the set is taken out. */
  protected readonly takingOut = signal(false);
  /** Whether rows for new goods stand below the sheet. */
  protected readonly adding = signal(false);
  /** The category in which the goods of the question lie, where it is one: new goods are likely to be for it. */
  protected readonly askedCategory = computed(() => {
    const read = readQuestion(this.set().question, this.asking());
    const asked = read.ok ? conditions(read.value.question) : [];
    const [only, ...more] = asked.filter((one) => one.kind === 'compare' && one.field === 'category');
    if (only?.kind !== 'compare' || more.length > 0 || only.values.length !== 1) return '';
    return this.names().categories.path(only.values[0]!);
  });

  constructor() {
    effect(() => {
      const { register } = this.asking();
      const own = register.goods.filter((field) => field.own).map(({ key }) => key);
      const columns = [...new Set([...this.layout().keys, ...slipColumns(register), ...own])];
      if (this.shop()) untracked(() => this.store.dispatch(WorkingSetActions.need({ columns })));
    });
    effect(() => {
      this.lastInHand = this.inHand()[0]?.productId ?? this.lastInHand;
    });
    effect(() => {
      // A sheet that has rows says itself which are in hand.
      if (!this.rows()?.rows.length) this.inHand.set([]);
      if (this.isBehind) untracked(() => void this.readAgain());
      this.isBehind = false;
    });
    let seen = untracked(this.version);
    effect(() => {
      const version = this.version();
      if (version === seen) return;
      seen = version;
      untracked(() => void this.readAgain());
    });
  }

  protected key(event: KeyboardEvent): void {
    if (isTyping(event.target) || this.sheetFocus.hasCell() || event.defaultPrevented) return;
    const action = keyAction('workbench', event);
    if (action === 'slip') this.slipOpen.update((open) => !open);
    if (action === 'rows of') this.showBy(this.set().of === 'SKUs' ? 'products' : 'SKUs');
    if (keyAction('everywhere', event) === 'folio') this.toFolio();
  }

  private toFolio(): void {
    const product = this.inHand()[0]?.productId ?? this.lastInHand;
    if (product !== undefined) void this.router.navigate(['/folio', 'product', product]);
  }

  /** Sorts by a column, the other way round where it is sorted by it already; with `then` behind the columns before. */
  protected sortBy(field: FieldKey, then: boolean, down?: boolean): void {
    this.store.dispatch(WorkingSetActions.sort({ sort: sortedBy(this.set().sort, field, then, down) }));
  }

  /** Runs a command of the menu, chosen there or by its key. */
  protected choose(choice: MenuChoice): void {
    const layout = this.layout();
    switch (choice.does) {
      case 'ask':
        return this.store.dispatch(
          WorkingSetActions.ask({ question: narrowed(this.set().question, choice.condition, this.asking()) }),
        );
      case 'folio':
        return this.toFolio();
      case 'leave out':
        this.sheet()?.holdPlace();
        return void this.picked.leaveOut(this.inHand());
      case 'only these':
        return void this.picked.onlyThese(this.inHand());
      case 'fill down':
        return this.sheet()?.fill('down');
      case 'fill right':
        return this.sheet()?.fill('right');
      case 'find':
        return this.finding.set(true);
      case 'rule':
        return this.toRule();
      case 'sort':
        return this.sortBy(choice.key, false, choice.down);
      case 'then sort':
        return this.sortBy(choice.key, true, choice.down);
      case 'lock':
        return this.keep({ ...layout, locked: toggled(layout.locked, choice.key) });
      case 'wrap':
        return this.keep({ ...layout, wraps: !layout.wraps });
      case 'stay':
        return this.keep({ ...layout, staying: choice.upTo });
      case 'take out':
        return this.keep(withoutColumn(layout, choice.key));
    }
  }

  /** Gives the chosen cells the texts in which words were replaced. */
  protected replaceCells(cells: readonly CellText[]): void {
    const rows = this.rows();
    if (!rows) return;
    const edits = cells.flatMap(({ place, key, text }) => {
      const [row, field] = [rows.rows[place], rows.fieldOf(key)];
      return row && field && !this.layout().locked.includes(field.key) ? [{ row, key: field.key, text }] : [];
    });
    if (edits.length > 0) this.edit({ how: 'replaced', of: rows, cells: edits });
  }

  protected showBy(of: RowsOf): void {
    this.store.dispatch(WorkingSetActions.showBy({ of }));
  }

  protected keepColumns(keys: readonly FieldKey[]): void {
    this.keep({ ...this.layout(), keys });
  }

  protected keepWidth({ key, width }: { key: FieldKey; width: number }): void {
    const layout = this.layout();
    this.keep({ ...layout, widths: { ...layout.widths, [key]: width } });
  }

  protected keep(chosen: Layout): void {
    const layout = fitted(chosen);
    this.layout.set(layout);
    keepLayout(this.desk(), layout);
  }

  protected edit(edits: CellEdits): void {
    this.editing.edit(
      edits,
      () => this.sheet()?.redraw(),
      () => {
        this.inHand.update((inHand) => [...inHand]);
        this.isBehind = this.set().asking;
        if (edits.of !== this.rows()) void this.readAgain();
      },
    );
  }

  /** Makes the names that a refused cell has and the shop does not have, and takes the cell in with them. */
  protected make(): void {
    const [row] = this.inHand();
    const [refused] = Object.values(row?.refused ?? {});
    if (!refused) return;
    const cells = refused.together;
    this.editing.edit(
      { how: 'edited', of: this.rows()!, cells },
      () => this.sheet()?.redraw(),
      () => this.inHand.update((inHand) => [...inHand]),
      true,
    );
  }

  protected editFromSlip(edits: { rows: readonly SheetRow[]; key: FieldKey; text: string }): void {
    this.edit({
      how: 'edited',
      of: this.rows()!,
      cells: edits.rows.map((row) => ({ row, key: edits.key, text: edits.text })),
    });
  }

  protected refuseWith(title: string): void {
    this.editing.refuse(problemHere(title));
  }

  /** Pictures that were dropped on a row become those of its product, one after another. */
  protected async takePictures({ row, files }: PicturesOnRow): Promise<void> {
    const name = row.landed?.name ?? '';
    for (const [i, file] of files.entries()) {
      this.sending.set(words.sheet.sendingPicture(file.name, name, i + 1, files.length));
      try {
        const { picture } = await lastValueFrom(this.api.uploadPicture(file, () => undefined));
        const step = { do: 'add to' as const, field: 'gallery' as const, values: `#${picture.id}` };
        const body = { question: '', products: [row.productId!], step };
        this.proposing.run(this.api.call(calls.putStep, { body }));
      } catch (error) {
        const problem = detailsOf(error);
        this.editing.refuse({ ...problem, title: `${file.name}: ${problem.title}` });
      }
    }
    this.sending.set('');
  }

  protected toLists(): void {
    void this.router.navigateByUrl('/lists');
  }

  protected toNewProduct(): void {
    void this.router.navigateByUrl('/new');
  }

  protected toRule(): void {
    if (this.isPast()) return;
    void this.router.navigateByUrl('/rule');
  }

  /** What the keys do now; or, in a cell whose text was refused, why. */
  protected readonly hint = computed(() => {
    const [row, ...more] = this.inHand();
    const [refused] = more.length === 0 ? Object.values(row?.refused ?? {}) : [];
    if (refused) return { text: refused.why, refused: true, unknown: refused.unknown };
    const text = this.sending() || (this.sheetFocus.hasCell() ? this.keysOfCells() : '');
    return { text, refused: false, unknown: [] };
  });

  /** The proof has changed under the rows in sight. */
  private async readAgain(): Promise<void> {
    const sheet = this.sheet();
    const rows = this.rows();
    if (!sheet || !rows || rows.rows.length === 0) return;
    const { from, to } = sheet.inSight();
    await rows.loadAgain(from, to);
    sheet.redraw();
    this.inHand.update((inHand) => [...inHand]);
  }
}
