import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { problemWords } from '@ivory/contract';
import { type DraftTable, isAmount, type Said, type StepDraft, type Verb } from '@ivory/core';
import { canBeTable, readStep, STEPS } from '@ivory/core/rules';
import { Store } from '@ngrx/store';
import { NzInputModule } from 'ng-zorro-antd/input';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { MoveButtons } from '../theme/moveButtons.ts';
import { SelectLabel } from '../theme/selectLabel.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { SentenceForm } from './sentenceForm.ts';
import { blankStep, VERB_GROUPS } from './newStep.ts';
import { TableTrouble, type Unmet } from './tableTrouble.ts';

/** One step of a rule: its verb, what it says, where it is done, and the table that its value may come from. */
@Component({
  selector: 'ivory-step-form',
  imports: [FormsModule, MoveButtons, NzInputModule, NzSelectModule, SelectLabel, SentenceForm, TableTrouble],
  templateUrl: './stepForm.html',
  styleUrl: './stepForm.less',
  host: { '(keydown)': 'key($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StepForm {
  readonly step = input.required<StepDraft>();
  readonly place = input.required<number>();
  /** The rows of its table that met nothing in the set, where it has one and that is known. */
  readonly unmet = input<Unmet>();
  readonly changed = output<StepDraft>();
  /** Up by −1, down by 1. */
  readonly moved = output<-1 | 1>();
  readonly removed = output();

  protected readonly words = words.rule;
  protected readonly groups = VERB_GROUPS;
  private readonly asking = inject(Store).selectSignal(session.selectAsking);
  protected readonly kind = computed(() => STEPS[this.step().do]);
  private readonly read = computed(() => readStep(this.step(), this.asking()));
  protected readonly slotProblems = computed(() => {
    const { where: _, table: __, ...slots } = this.read().problems;
    return slots;
  });
  protected readonly whereProblem = computed(() => this.problem('where'));
  /** What is wrong with the table as a whole; what is wrong with its rows is told row by row. */
  protected readonly tableProblem = computed(() =>
    this.read().problems['table']?.row === undefined ? this.problem('table') : '',
  );
  protected readonly rowProblems = computed(
    () => this.read().table?.problems.filter(({ row }) => row !== undefined) ?? [],
  );
  protected readonly tableLines = computed(() => this.read().table?.lines ?? []);
  private readonly rows = viewChild<ElementRef<HTMLTextAreaElement>>('rows');
  /** Asked for, even while nothing is said there yet. */
  protected readonly hasWhere = linkedSignal(() => this.step().where !== '');
  /** A condition on a step of a product asks its SKUs: any or every one. */
  protected readonly isOfProduct = computed(() => this.asking().register.find(this.step().field)?.kind === 'product');
  /** What can come from a table. */
  protected readonly slots = computed(() =>
    Object.entries(this.kind().slots).flatMap(([name, slot]) => (canBeTable(slot) ? [name] : [])),
  );
  protected readonly fields = computed(() => this.asking().register.goods.filter(({ type }) => type !== 'gaps'));
  protected readonly canHaveBands = computed(() => {
    const by = this.step().table?.by;
    const field = by && this.asking().register.find(by);
    return field ? isAmount(field) : false;
  });

  private problem(slot: string): string {
    const problem = this.read().problems[slot];
    return problem && problem.code !== 'slot-empty' ? problemWords(problem) : '';
  }

  protected choose(verb: Verb): void {
    const blank = blankStep(verb, this.asking(), this.step().field);
    const kept = Object.entries(this.step().texts).filter(([name]) => name in STEPS[verb].slots);
    const { where } = this.step();
    this.changed.emit({ ...blank, texts: { ...blank.texts, ...Object.fromEntries(kept) }, where });
  }

  protected say(said: Said): void {
    this.changed.emit({ ...this.step(), ...said });
  }

  protected ask(where: string): void {
    this.changed.emit({ ...this.step(), where });
  }

  protected ofEvery(isEvery: boolean): void {
    const { whereEvery: _, ...rest } = this.step();
    this.changed.emit({ ...rest, ...(isEvery && { whereEvery: true as const }) });
  }

  protected everywhere(): void {
    this.hasWhere.set(false);
    this.ask('');
  }

  protected useTable(): void {
    const by = this.fields().find(({ key }) => key === 'brand')!.key;
    this.setTable({ slot: this.slots()[0]!, by, text: '', bands: false });
  }

  protected changeTable(part: Partial<DraftTable>): void {
    const { table } = this.step();
    if (table) this.setTable({ ...table, ...part });
  }

  /** Selects a line of the table, to be mended in place. */
  protected leadTo(line: number): void {
    const rows = this.rows()?.nativeElement;
    if (!rows) return;
    const before = rows.value.split('\n').slice(0, line - 1);
    const start = before.reduce((sum, text) => sum + text.length + 1, 0);
    const end = rows.value.indexOf('\n', start);
    rows.focus();
    rows.setSelectionRange(start, end < 0 ? rows.value.length : end);
    rows.scrollTop = (rows.scrollHeight / rows.value.split('\n').length) * (line - 2);
  }

  private setTable(table: DraftTable): void {
    this.changed.emit({ ...this.step(), table });
  }

  protected dropTable(): void {
    const { table: _, ...rest } = this.step();
    this.changed.emit(rest);
  }

  protected key(event: KeyboardEvent): void {
    if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
    event.preventDefault();
    this.moved.emit(event.key === 'ArrowUp' ? -1 : 1);
  }
}
