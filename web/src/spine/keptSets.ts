import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { calls } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { Api, detailsOf } from '../api/api.ts';
import { KeepForm, type KeptAs } from '../theme/keepForm.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** The working sets that are kept under names, each with its count; the one in hand can be kept, renamed and forgotten. */
@Component({
  selector: 'ivory-kept-sets',
  imports: [KeepForm],
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
  protected readonly form = signal<(KeptAs & { readonly id?: string }) | undefined>(undefined);
  protected readonly problem = signal('');

  protected ask(question: string | null): void {
    if (question !== null) this.store.dispatch(WorkingSetActions.ask({ question }));
  }

  protected begin(set?: KeptAs & { readonly id: string }): void {
    this.problem.set('');
    this.form.set(set ? { id: set.id, name: set.name, note: set.note } : { name: '', note: '' });
  }

  protected keep(as: KeptAs): void {
    const id = this.form()?.id;
    const body = { ...(id !== undefined && { id }), ...as, question: this.question() };
    this.api.call(calls.keepSet, { body }).subscribe({
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
