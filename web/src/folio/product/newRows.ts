import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  Injector,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { calls, type CodesBy, wireProblemWords } from '@ivory/contract';
import { codePattern, type FieldKey, knownValues } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { map, tap } from 'rxjs';
import { Api } from '../../api/api.ts';
import { pastedRows } from '../../sheet/cells/blocks.ts';
import { Proposing } from '../../state/proposing.ts';
import { selectAskingInHand } from '../../state/askingInHand.ts';
import { words } from '../../words/en.ts';
import { whole } from '../../words/numbers.ts';
import { CodesForm, type SeeCodes } from './codesForm.ts';

/** A row being filled, with its problems. */
interface Row {
  readonly cells: readonly string[];
  readonly why: readonly string[];
}

const BEFORE_OPTIONS: readonly FieldKey[] = ['name', 'category', 'brand'];
const BEHIND_OPTIONS: readonly FieldKey[] = ['price', 'cost', 'stock', 'weight', 'code', 'gtin'];
/** Lists that are offered while one types have so many names at most. */
const MOST_OFFERED = 1_000;
const KEPT = 'ivory.new.rows';
/** The height of a row; so many are drawn at once, of these so many above what is in sight. */
const ROW = 30;
const DRAWN = 60;
const AROUND = 15;

/** New goods by the row: typed one after another, or pasted as a block. What cannot be made stays, with the reason. */
@Component({
  selector: 'ivory-new-rows',
  imports: [CodesForm, NzButtonModule],
  templateUrl: './newRows.html',
  styleUrl: './newRows.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewRows {
  /** The category that new rows begin with, as a path; none where it is empty. */
  readonly category = input('');

  protected readonly words = words;
  protected readonly whole = whole;
  private readonly api = inject(Api);
  private readonly proposing = inject(Proposing);
  private readonly asking = inject(Store).selectSignal(selectAskingInHand);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);

  protected readonly fields = computed(() => {
    const { register } = this.asking();
    const options = register.goods.filter(({ own }) => own?.of === 'option').map(({ key }) => key);
    return [...BEFORE_OPTIONS, ...options, ...BEHIND_OPTIONS].map((key) => {
      const field = register.get(key);
      const offered = field.refersTo ? knownValues(field, this.asking()).slice(0, MOST_OFFERED) : [];
      return { key, name: field.name, offered };
    });
  });
  /** What was begun here before stands here again. */
  private readonly begun = linkedSignal<number, readonly Row[]>({
    source: () => this.fields().length,
    computation: (width) => keptRows(width),
  });
  private readonly empty = computed((): Row => ({ cells: this.fields().map(() => ''), why: [] }));
  /** The rows that are filled, and one more. */
  protected readonly rows = computed(() => [...this.begun(), this.empty()]);
  protected readonly scrolled = signal(0);
  /** The rows that are drawn: those in sight and some around them, with the room of the others. */
  protected readonly window = computed(() => {
    const rows = this.rows();
    const first = this.firstAt(this.scrolled());
    const drawn = rows.slice(first, first + DRAWN);
    return { first, rows: drawn, above: first * ROW, below: (rows.length - first - drawn.length) * ROW };
  });

  private firstAt(scrolled: number): number {
    return Math.max(0, Math.min(Math.floor(scrolled / ROW) - AROUND, this.rows().length - DRAWN));
  }

  /** What is being typed in a row that will not be drawn any more is written first. */
  protected scroll(to: number): void {
    const first = this.firstAt(to);
    const typed = this.host.nativeElement.querySelector<HTMLInputElement>('tr.entry input:focus');
    const at = Number(typed?.closest('tr')?.dataset['row']);
    if (typed && (at < first || at >= first + DRAWN)) typed.blur();
    this.scrolled.set(to);
  }

  protected readonly count = computed(() => this.begun().length);
  protected readonly said = signal('');
  protected readonly isMaking = signal(false);

  protected write(i: number, j: number, text: string): void {
    this.put(i, j, [[text]]);
  }

  /** A block goes in from a cell on, to the right and down. */
  protected paste(i: number, j: number, event: ClipboardEvent): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n]/.test(text.trimEnd())) return;
    event.preventDefault();
    this.put(i, j, pastedRows(text));
  }

  private put(i: number, j: number, block: readonly (readonly string[])[]): void {
    const before = this.begun().length;
    const rows = this.rows().map(({ cells }) => ({ cells: [...cells], why: [] as string[] }));
    while (rows.length < i + block.length) rows.push({ cells: [...this.empty().cells], why: [] });
    block.forEach((texts, down) =>
      texts.forEach((text, right) => {
        const { cells } = rows[i + down]!;
        if (j + right < cells.length) cells[j + right] = text.trim();
      }),
    );
    const filled = rows.filter(({ cells }) => cells.some(Boolean));
    const at = this.fields().findIndex(({ key }) => key === 'category');
    // A row that is begun lies where the goods that were asked for lie, until it says another place.
    for (const { cells } of filled.slice(before)) cells[at] ||= this.category();
    this.keep(filled);
  }

  protected takeOut(i: number): void {
    this.keep(this.begun().filter((_, at) => at !== i));
  }

  private keep(rows: readonly Row[]): void {
    this.begun.set(rows);
    sessionStorage.setItem(KEPT, JSON.stringify(rows.map(({ cells }) => cells)));
  }

  /** Enter goes on to the beginning of the next row. */
  protected next(i: number, event: Event): void {
    event.preventDefault();
    (event.target as HTMLElement).blur();
    afterNextRender(
      () => {
        const at = Math.min(i + 1, this.rows().length - 1);
        this.host.nativeElement.querySelector<HTMLElement>(`tr[data-row="${at}"] input`)?.focus();
      },
      { injector: this.injector },
    );
  }

  /** How codes are made where a row has none, where that is chosen. */
  protected readonly codes = signal<CodesBy | undefined>(undefined);
  protected readonly pattern = computed(() => {
    const options = this.asking().register.goods.filter(({ own }) => own?.of === 'option');
    return codePattern(options.slice(0, 2).map(({ name }) => name));
  });
  /** Codes are seen before, once there are rows without one. */
  protected readonly seeCodes = computed((): SeeCodes | undefined => {
    const code = this.fields().findIndex(({ key }) => key === 'code');
    if (!this.begun().some(({ cells }) => (cells[code] ?? '').trim() === '' && (cells[0] ?? '').trim() !== ''))
      return undefined;
    const rows = this.texts();
    return (codes) =>
      this.api.call(calls.makeRows, { body: { rows, codes, propose: false } }).pipe(map((seen) => seen.codes));
  });

  private texts(): Record<string, string>[] {
    const fields = this.fields();
    return this.begun().map(({ cells }) => Object.fromEntries(fields.map(({ key }, j) => [key, cells[j] ?? ''])));
  }

  protected propose(): void {
    const rows = this.begun();
    if (rows.length === 0 || this.isMaking()) return;
    this.isMaking.set(true);
    const body = { rows: this.texts(), codes: this.codes() };
    const call = this.api.call(calls.makeRows, { body }).pipe(
      tap(({ made, refused }) => {
        this.keep(refused.map(({ row, places }) => ({ cells: rows[row]!.cells, why: places.map(wireProblemWords) })));
        const left = refused.length === 0 ? '' : ` ${words.rows.left(whole(refused.length))}`;
        this.said.set(words.rows.made(whole(made)) + left);
      }),
    );
    this.proposing.run(
      call,
      () => this.isMaking.set(false),
      () => this.isMaking.set(false),
    );
  }
}

/** Unfinished rows from before; rows for other columns are dropped. */
function keptRows(width: number): Row[] {
  try {
    const kept = JSON.parse(sessionStorage.getItem(KEPT) ?? '[]') as string[][];
    return kept.filter((cells) => cells.length === width).map((cells) => ({ cells, why: [] }));
  } catch {
    return [];
  }
}
