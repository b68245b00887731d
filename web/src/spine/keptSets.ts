import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { calls } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { NzInputModule } from 'ng-zorro-antd/input';
import { Api, detailsOf } from '../api/api.ts';
import { TakesFocus } from '../look/takesFocus.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** The working sets that are kept under names, each with its count; the one in hand can be kept, renamed and forgotten. */
@Component({
  selector: 'ivory-kept-sets',
  imports: [FormsModule, NzInputModule, TakesFocus],
  templateUrl: './keptSets.html',
  styleUrls: ['./spine.less', './categoryTree.less', './keptSets.less'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeptSets {
  protected readonly words = words.spine;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly spine = this.store.selectSignal(workingSet.selectSpine);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);
  protected readonly question = computed(() => this.answer()?.question ?? '');
  /** Whether two questions are the same is told by how they are printed. */
  private readonly printed = computed(() => (this.answer()?.conditions ?? []).join(' '));
  protected readonly sets = computed(() =>
    (this.spine()?.sets ?? []).map((one) => ({
      ...one,
      count: one.question === null ? '' : whole(one.skus),
      isHere: one.question !== null && one.question === this.printed(),
    })),
  );
  /** What is being kept: a new set, or one that is kept already under another name. */
  protected readonly form = signal<{ readonly id?: string; readonly name: string; readonly note: string } | undefined>(
    undefined,
  );
  protected readonly problem = signal('');

  protected ask(question: string | null): void {
    if (question !== null) this.store.dispatch(WorkingSetActions.ask({ question }));
  }

  protected begin(set?: { readonly id: string; readonly name: string; readonly note: string }): void {
    this.problem.set('');
    this.form.set(set ? { id: set.id, name: set.name, note: set.note } : { name: '', note: '' });
  }

  protected type(part: { readonly name?: string; readonly note?: string }): void {
    this.form.update((form) => form && { ...form, ...part });
  }

  protected keep(): void {
    const form = this.form();
    if (!form || form.name.trim() === '') return;
    this.api.call(calls.keepSet, { body: { ...form, question: this.question() } }).subscribe({
      next: () => {
        this.form.set(undefined);
        this.store.dispatch(WorkingSetActions.countAgain());
      },
      error: (error: unknown) => this.problem.set(detailsOf(error).title),
    });
  }

  protected forget(id: string): void {
    this.api
      .call(calls.forgetSet, { params: { id } })
      .subscribe({ next: () => this.store.dispatch(WorkingSetActions.countAgain()) });
  }
}
