import { ScrollingModule } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { type AnswerOf, calls, type Landing, type ShownLine, type TakeBackOnly } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzCheckboxModule } from 'ng-zorro-antd/checkbox';
import { Api, detailsOf } from '../api/api.ts';
import { KeepForm, type KeptAs } from '../theme/keepForm.ts';
import { fieldWords, lineWords } from '../proof/lineWords.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

type Fields = AnswerOf<typeof calls.getLandingLines>['fields'];
type FieldOfLanding = Fields[number];

const BLOCK = 200;

/** What one landing changed: by field, line by line; all of it, some fields or some rows can be taken back. */
@Component({
  selector: 'ivory-landing-detail',
  imports: [FormsModule, ScrollingModule, NzButtonModule, NzCheckboxModule, KeepForm],
  templateUrl: './landingDetail.html',
  styleUrl: './landingDetail.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LandingDetail {
  readonly landing = input.required<Landing>();
  /** A proposal is on its way: until it is there, no other is. */
  readonly proposing = input(false);
  readonly takeBack = output<TakeBackOnly>();
  /** It has another name or note. */
  readonly noted = output();

  protected readonly words = words.journalPage;
  protected readonly loading = words.sheet.loading;
  protected readonly whole = whole;
  protected readonly what = lineWords;
  protected readonly nameOf = fieldWords;
  private readonly api = inject(Api);
  private readonly store = inject(Store);

  protected readonly naming = signal(false);
  protected readonly field = signal<FieldOfLanding | undefined>(undefined);
  protected readonly found = signal('');
  protected readonly fields = signal<Fields>([]);
  protected readonly lines = signal<readonly (ShownLine | undefined)[] | undefined>(undefined);
  /** Rows that are chosen stay so while others are looked for. */
  protected readonly chosen = signal<ReadonlyMap<string, ShownLine>>(new Map());
  private readonly loaded = new Set<number>();
  private readonly id = computed(() => this.landing().id);

  protected readonly fileOf = computed(
    () => `/api/journal/${this.id()}/lines.csv?${new URLSearchParams(this.filter() as Record<string, string>)}`,
  );
  private readonly filter = computed(() => {
    const field = this.field();
    const words = this.found().trim();
    return { ...(field && { kind: field.kind, field: field.field }), ...(words !== '' && { words }) };
  });

  constructor() {
    effect(() => {
      this.id();
      this.filter();
      untracked(() => {
        this.loaded.clear();
        this.load(0);
      });
    });
  }

  protected loadAt(index: number): void {
    for (const block of [Math.floor(index / BLOCK), Math.floor((index + 20) / BLOCK)]) this.load(block);
  }

  private load(block: number): void {
    if (this.loaded.has(block)) return;
    this.loaded.add(block);
    const filter = this.filter();
    const query = { from: block * BLOCK, count: BLOCK, ...filter };
    this.api.call(calls.getLandingLines, { params: { id: this.id() }, query }).subscribe({
      next: ({ total, lines, fields }) => {
        if (filter !== this.filter()) return;
        this.fields.set(fields);
        this.lines.update((before) => {
          const all =
            before?.length === total && block > 0 ? [...before] : Array.from({ length: total }, () => undefined);
          lines.forEach((line, i) => (all[block * BLOCK + i] = line));
          return all;
        });
      },
      error: (error: unknown) => this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) })),
    });
  }

  protected isChosen = (line: ShownLine): boolean => this.chosen().has(keyOf(line));

  protected choose(line: ShownLine, isIn: boolean): void {
    this.chosen.update((before) => {
      const after = new Map(before);
      if (isIn) after.set(keyOf(line), line);
      else after.delete(keyOf(line));
      return after;
    });
  }

  /** Whether the lines of a field are shown alone. */
  protected isField({ kind, field }: FieldOfLanding): boolean {
    const only = this.field();
    return only?.kind === kind && only.field === field;
  }

  protected takeRowsBack(): void {
    const lines = [...this.chosen().values()].map(({ kind, id, field }) => ({ kind, id, field }));
    if (lines.length > 0) this.takeBack.emit({ lines });
  }

  protected takeFieldBack({ kind, field }: FieldOfLanding): void {
    this.takeBack.emit({ fields: [{ kind, field }] });
  }

  protected note({ name, note }: KeptAs): void {
    this.api.call(calls.noteLanding, { params: { id: this.id() }, body: { name, note } }).subscribe({
      next: () => {
        this.naming.set(false);
        this.noted.emit();
      },
      error: (error: unknown) => this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) })),
    });
  }
}

const keyOf = ({ kind, id, field }: ShownLine): string => `${kind} ${id} ${field}`;
