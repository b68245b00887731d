import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { calls, type KeptRule } from '@ivory/contract';
import { type Rule } from '@ivory/core';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { Api, detailsOf } from '../api/api.ts';
import { KeepForm, type KeptAs } from '../theme/keepForm.ts';
import { SelectLabel } from '../theme/selectLabel.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { ShopTime } from '../state/shopTime.ts';

/** The rules that are kept: one is taken up, the one at hand is kept, and each tells when it was run. */
@Component({
  selector: 'ivory-kept-rules',
  imports: [FormsModule, KeepForm, NzSelectModule, SelectLabel, ShopTime],
  templateUrl: './keptRules.html',
  styles: `
    .one {
      margin: 6px 0;
    }
    nz-select {
      width: 100%;
    }
    .opens {
      margin-right: 10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeptRules {
  /** The rule as it stands; undefined while it does not read. */
  readonly rule = input<Rule | undefined>();
  readonly question = input.required<string>();
  /** The kept rule that is at hand. */
  readonly kept = input.required<string | null>();
  readonly taken = output<KeptRule>();
  /** It is kept from now on, or not any more. */
  readonly held = output<string | null>();

  protected readonly words = words.rule;
  protected readonly whole = whole;
  private readonly api = inject(Api);
  private readonly read = rxResource({ stream: () => this.api.call(calls.listRules) });
  protected readonly rules = computed(() => (this.read.hasValue() ? this.read.value().rules : []));
  protected readonly one = computed(() => this.rules().find(({ id }) => id === this.kept()));
  protected readonly form = signal<KeptAs | undefined>(undefined);
  /** Whether it is kept with the rows that it is for. */
  protected readonly withRows = signal(true);
  protected readonly problem = signal('');

  protected choose(id: string): void {
    const rule = this.rules().find((one) => one.id === id);
    if (rule) this.taken.emit(rule);
  }

  protected begin(): void {
    const one = this.one();
    this.problem.set('');
    this.withRows.set(one ? one.question !== null : true);
    this.form.set({ name: one?.name ?? '', note: one?.note ?? '' });
  }

  /** Storing under the same name replaces the kept rule; another name makes another rule. */
  protected keep(as: KeptAs): void {
    const [rule, one] = [this.rule(), this.one()];
    if (!rule) return;
    const id = one?.name === as.name ? { id: one.id } : {};
    const body = { ...id, ...as, question: this.withRows() ? this.question() : null, rule };
    this.api.call(calls.keepRule, { body }).subscribe({
      next: ({ id }) => {
        this.form.set(undefined);
        this.read.reload();
        this.held.emit(id);
      },
      error: (error: unknown) => this.problem.set(detailsOf(error).title),
    });
  }

  protected forget(id: string): void {
    this.api.call(calls.forgetRule, { params: { id } }).subscribe({
      next: () => {
        this.read.reload();
        this.held.emit(null);
      },
    });
  }
}
