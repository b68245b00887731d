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
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { calls, type Import, type Work } from '@ivory/contract';
import { type FieldKey, HEADINGS_WITHIN, isEditable, isInKilograms, otherCurrency, STAGES } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzCheckboxModule } from 'ng-zorro-antd/checkbox';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { SelectLabel } from '../theme/selectLabel.ts';
import { Api, detailsOf } from '../api/api.ts';
import { atWork, isOver, WorkActions } from '../state/atWork.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';

/** A file that was taken in: its headings matched to fields, to be corrected before a row is read. */
@Component({
  selector: 'ivory-import-page',
  imports: [FormsModule, NzButtonModule, NzCheckboxModule, NzSelectModule, SelectLabel],
  templateUrl: './importPage.html',
  styles: `
    nz-select {
      width: 200px;
    }
    .plain td {
      vertical-align: middle;
    }
    .settings {
      display: flex;
      flex-direction: column;
      gap: 6px;
      margin: 16px 0;
    }
    .settings label {
      margin-left: 0;
    }
    .settings .within {
      margin-left: 24px;
    }
    .pair {
      display: flex;
      gap: 10px;
      align-items: center;
    }
    .pair + .plain {
      margin-top: 10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImportPage {
  /** From the route. */
  readonly id = input.required<string>();

  protected readonly words = words;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly works = this.store.selectSignal(atWork.selectEntities);
  private readonly asking = this.store.selectSignal(session.selectAsking);

  protected readonly targets = computed(() => this.asking().register.goods.filter(isEditable));
  protected readonly file = rxResource({
    params: () => this.id(),
    stream: ({ params }) => this.api.call(calls.getImport, { params: { id: params } }),
  });
  protected readonly headingRow = linkedSignal(() => (this.file.hasValue() ? this.file.value().headingRow : 1));
  /** The rows to choose from; blank ones are counted here, so that the headings may stand further down. */
  protected readonly headingRows = computed(() =>
    Array.from({ length: Math.max(this.headingRow(), HEADINGS_WITHIN) + 1 }, (_, row) => row),
  );
  /** Until the columns below other headings have come, those that are shown are of the ones before. */
  protected readonly isChoosing = signal(false);
  /** The earlier choices for this file, if any; each file has its own. */
  private readonly before = computed(
    () => ({ of: this.id(), settings: this.file.hasValue() ? this.file.value().settings : null }),
    { equal: (a, b) => a.of === b.of && a.settings === b.settings },
  );
  protected readonly columns = linkedSignal<readonly (FieldKey | null)[]>(() =>
    this.file.hasValue()
      ? (this.before().settings?.columns ?? this.file.value().columns.map(({ field }) => field))
      : [],
  );
  protected readonly decimalSign = linkedSignal(
    () => this.before().settings?.decimalSign ?? (this.file.hasValue() ? this.file.value().decimalSign : '.'),
  );
  protected readonly makeProducts = linkedSignal(() => this.before().settings?.makeProducts ?? true);
  protected readonly joinVariants = linkedSignal(() => this.before().settings?.joinVariants ?? true);
  protected readonly productColumn = linkedSignal(() => this.before().settings?.productColumn ?? null);
  protected readonly stage = linkedSignal(() => this.before().settings?.stage ?? 'Preparing');
  protected readonly stages = STAGES;
  protected readonly makeNames = linkedSignal(() => this.before().settings?.makeNames ?? true);
  private readonly workId = signal<string | undefined>(undefined);
  protected readonly work = computed((): Work | undefined => this.works()[this.workId() ?? '']);
  protected readonly busy = computed(() => {
    const work = this.work();
    return work !== undefined && !isOver(work);
  });

  constructor() {
    effect(() => {
      const work = this.work();
      if (work?.state === 'done' && work.result !== null)
        untracked(() => void this.router.navigate(['/proof', work.result]));
    });
  }

  /** How a column was matched, and in which unit it is read when its heading names one. */
  protected remark(index: number, { heading, field, by }: Import['columns'][number]): string {
    const { register } = this.asking();
    const key = this.columns()[index];
    const taken = key ? register.find(key) : undefined;
    const matched = key === field ? words.import.matched[by] : '';
    return [matched, taken && isInKilograms(taken, heading) ? words.import.inKilograms : ''].filter(Boolean).join('; ');
  }

  /** What speaks against taking a column as it is taken: its heading names another currency. */
  protected caution(index: number, heading: string): string | undefined {
    const { register, names } = this.asking();
    const key = this.columns()[index];
    const taken = key ? register.find(key) : undefined;
    const { currency } = names;
    const other = taken ? otherCurrency(taken, heading, currency) : undefined;
    return other && words.import.otherCurrency(other, currency.code);
  }

  /** A column by its heading, or by its place when the file has none. */
  protected headingOf(heading: string, index: number): string {
    return heading.trim() === '' ? words.import.column(index + 1) : heading;
  }

  protected chooseHeadings(headingRow: number): void {
    const before = this.headingRow();
    this.headingRow.set(headingRow);
    this.isChoosing.set(true);
    this.api.call(calls.chooseHeadings, { params: { id: this.id() }, body: { headingRow } }).subscribe({
      next: (file) => {
        this.isChoosing.set(false);
        this.file.set(file);
      },
      error: (error: unknown) => {
        this.isChoosing.set(false);
        this.headingRow.set(before);
        this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) }));
      },
    });
  }

  protected setColumn(index: number, field: FieldKey | null): void {
    // A field can be taken once: whichever column had it gives it up.
    this.columns.update((columns) =>
      columns.map((column, i) => (i === index ? field : column === field ? null : column)),
    );
  }

  protected read(): void {
    const body = {
      columns: [...this.columns()],
      decimalSign: this.decimalSign(),
      makeProducts: this.makeProducts(),
      makeNames: this.makeNames(),
      stage: this.stage(),
      joinVariants: this.joinVariants(),
      productColumn: this.productColumn(),
    };
    this.api.call(calls.readImport, { params: { id: this.id() }, body }).subscribe({
      next: ({ work }) => {
        this.workId.set(work.id);
        this.store.dispatch(WorkActions.begun({ work }));
      },
      error: (error: unknown) => this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) })),
    });
  }
}
