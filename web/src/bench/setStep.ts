import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { calls, type SetStep as Step } from '@ivory/contract';
import { type Field, type FieldKey, namesOf } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { Api } from '../api/api.ts';
import { SelectLabel } from '../look/selectLabel.ts';
import { hand } from '../state/hand.ts';
import { Proposing } from '../state/proposing.ts';
import { session } from '../state/session.ts';
import { workingSet } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

const VERBS: readonly Step['do'][] = ['add to', 'take from', 'move', 'replace all'];

/** One step on a field of the working set that holds several things: says in numbers what it will do, then proposes it. */
@Component({
  selector: 'ivory-set-step',
  imports: [FormsModule, NzButtonModule, NzSelectModule, SelectLabel],
  templateUrl: './setStep.html',
  styles: `
    :host {
      display: flex;
      gap: 6px;
      align-items: center;
      padding: 6px 12px;
      background: var(--ground);
      border-bottom: 1px solid var(--rule);
      flex-wrap: wrap;
    }
    nz-select {
      min-width: 120px;
    }
    .things {
      min-width: 200px;
    }
    .effect {
      flex: 1;
      min-width: 160px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SetStep {
  readonly done = output();

  protected readonly words = words;
  protected readonly verbs = VERBS;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly proposing = inject(Proposing);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);
  private readonly version = this.store.selectSignal(hand.selectVersion);

  /** Fields that hold several things. */
  protected readonly fields = computed(() =>
    this.asking().register.goods.filter(
      ({ type, kind, store }) =>
        kind === 'product' && store.in !== 'computed' && (type === 'references' || type === 'categories'),
    ),
  );
  protected readonly key = signal<FieldKey>('category');
  protected readonly verb = signal<Step['do']>('add to');
  protected readonly from = signal<readonly string[]>([]);
  protected readonly values = signal<readonly string[]>([]);
  private readonly field = computed((): Field | undefined => this.asking().register.find(this.key()));
  /** What can be chosen: categories by their paths, other things by their names. */
  protected readonly offered = computed((): readonly string[] => {
    const field = this.field();
    const { names } = this.asking();
    if (!field) return [];
    if (field.refersTo?.kind === 'category')
      return names.categories.categories.map(({ id }) => names.categories.path(id));
    return namesOf(field, names).names();
  });
  private readonly step = computed((): Step | undefined => {
    const [key, verb, values, from] = [this.key(), this.verb(), this.values(), this.from()];
    if (values.length === 0 || (verb === 'move' && from.length === 0)) return undefined;
    const said = { field: key, values: values.join(' | ') };
    return verb === 'move' ? { do: verb, ...said, from: from.join(' | ') } : { do: verb, ...said };
  });
  private readonly counted = rxResource({
    params: () => {
      const [step, answer] = [this.step(), this.answer()];
      return step && answer ? { step, question: answer.question, version: this.version() } : undefined;
    },
    stream: ({ params: { step, question } }) =>
      this.api.call(calls.putStep, { body: { question, step, propose: false } }),
  });
  protected readonly effect = computed(() => {
    if (!this.step()) return { text: words.setStep.choose, changes: 0 };
    if (this.counted.error()) return { text: this.counted.error()!.message, changes: 0 };
    if (!this.counted.hasValue()) return { text: words.sheet.loading, changes: 0 };
    const { changes, already, otherMain } = this.counted.value();
    const effect = words.setStep.effect[this.verb()](whole(changes), whole(already));
    return { text: otherMain === 0 ? effect : `${effect} ${words.setStep.otherMain(whole(otherMain))}`, changes };
  });

  protected choose(key: FieldKey): void {
    this.key.set(key);
    this.values.set([]);
    this.from.set([]);
  }

  protected propose(): void {
    const [step, answer] = [this.step(), this.answer()];
    if (!step || !answer) return;
    const call = this.api.call(calls.putStep, { body: { question: answer.question, step } });
    this.proposing.run(call, () => this.done.emit());
  }
}
