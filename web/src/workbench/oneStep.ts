import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { calls } from '@ivory/contract';
import { type Said, type StepDraft, type Verb } from '@ivory/core';
import { readRule, readStep, STEPS } from '@ivory/core/rules';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { debounceTime } from 'rxjs';
import { Api } from '../api/api.ts';
import { SelectLabel } from '../theme/selectLabel.ts';
import { blankStep } from '../rule/newStep.ts';
import { ruleTitle } from '../rule/ruleTitle.ts';
import { SentenceForm } from '../rule/sentenceForm.ts';
import { hand } from '../state/hand.ts';
import { Proposing } from '../state/proposing.ts';
import { session } from '../state/session.ts';
import { workingSet } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** What is done to many goods at once without guards; verbs that raise, lower and work amounts out are for the rule bench. */
const DONE_AT_ONCE: readonly Verb[] = ['add', 'take', 'move', 'keep only', 'set', 'clear', 'copy', 'move by days'];
const SETTLE = 200;

/** One step of a rule for all of the working set: says in numbers what it will do, then proposes it. */
@Component({
  selector: 'ivory-one-step',
  imports: [FormsModule, NzButtonModule, NzSelectModule, SelectLabel, SentenceForm],
  templateUrl: './oneStep.html',
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
    .verb {
      min-width: 120px;
    }
    .effect {
      flex: 1;
      min-width: 160px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OneStep {
  readonly done = output();

  protected readonly words = words;
  protected readonly verbs = DONE_AT_ONCE;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly proposing = inject(Proposing);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);
  private readonly version = this.store.selectSignal(hand.selectVersion);

  protected readonly step = signal<StepDraft>(blankStep('add', this.asking(), 'category'));
  protected readonly kind = computed(() => STEPS[this.step().do]);
  protected readonly problems = computed(() => {
    const { where: _, table: __, ...slots } = readStep(this.step(), this.asking()).problems;
    return slots;
  });
  private readonly draft = computed(() => ({ steps: [this.step()], guards: [] }));
  private readonly rule = computed(() => readRule(this.draft(), this.asking()));
  private readonly wanted = toSignal(
    toObservable(
      computed(() => {
        const [rule, answer] = [this.rule(), this.answer()];
        return rule && answer ? { rule, question: answer.question, version: this.version() } : undefined;
      }),
    ).pipe(debounceTime(SETTLE)),
  );
  /** Whether the numbers are those of the step that stands here: nothing else is proposed. */
  private readonly isSettled = computed(() => {
    const [wanted, answer] = [this.wanted(), this.answer()];
    return wanted !== undefined && wanted.rule === this.rule() && wanted.question === answer?.question;
  });
  private readonly seen = rxResource({
    params: () => this.wanted(),
    stream: ({ params: { rule, question } }) => this.api.call(calls.previewRule, { body: { question, rule } }),
  });
  protected readonly effect = computed(() => {
    if (!this.rule() || !this.wanted()) return { text: words.oneStep.choose, changes: 0 };
    if (!this.isSettled()) return { text: words.sheet.loading, changes: 0 };
    if (this.seen.error()) return { text: this.seen.error()!.message, changes: 0 };
    if (!this.seen.hasValue()) return { text: words.sheet.loading, changes: 0 };
    const { product, sku } = this.seen.value();
    const told = [
      { of: words.rule.ofProducts, tally: product },
      { of: words.rule.ofSkus, tally: sku },
    ].filter(({ tally: { changes, stays, failed } }) => changes + stays + failed > 0);
    const text = told
      .map(({ of, tally: { changes, stays, failed } }) =>
        words.oneStep.effect(of, whole(changes), whole(stays), failed === 0 ? '' : whole(failed)),
      )
      .join(' ');
    const { inHand } = this.seen.value();
    const beside = inHand === 0 ? '' : ` ${words.oneStep.onTop(inHand, whole(inHand))}`;
    return { text: (text === '' ? words.oneStep.nothing : text) + beside, changes: product.changes + sku.changes };
  });

  protected choose(verb: Verb): void {
    this.step.update((before) => blankStep(verb, this.asking(), before.field));
  }

  protected say(said: Said): void {
    // A value typed for one field is not offered for another.
    const texts = said.field === this.step().field ? said.texts : {};
    this.step.update((before) => ({ ...before, ...said, texts }));
  }

  protected propose(): void {
    const wanted = this.wanted();
    if (!wanted || !this.isSettled()) return;
    const { rule, question } = wanted;
    const title = ruleTitle(this.draft(), question, this.asking());
    this.proposing.run(this.api.call(calls.putRule, { body: { question, title, rule } }), () => this.done.emit());
  }
}
