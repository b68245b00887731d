import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { calls, type Effect } from '@ivory/contract';
import { ENDING_NAMES, type EndingDirection, type EffectCount, showMoney, type StopReason } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzInputModule } from 'ng-zorro-antd/input';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { debounceTime } from 'rxjs';
import { SelectLabel } from '../look/selectLabel.ts';
import { Api, detailsOf } from '../api/api.ts';
import { Bars } from '../charts/bars.ts';
import { byQuestionOrCount, marginBars, type OpensBar, priceBars } from '../charts/spreadBars.ts';
import { OpenRows } from '../question/openRows.ts';
import { QuestionLine } from '../question/questionLine.ts';
import { HandActions } from '../state/handActions.ts';
import { InTurn } from '../state/inTurn.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { RuleActions, ruleDraft, type RuleForm } from '../state/ruleDraft.ts';
import { session } from '../state/session.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { share, whole } from '../words/numbers.ts';
import { readForm } from './ruleForm.ts';

const SETTLE = 200;

const AFRESH: Omit<RuleForm, 'floor'> = {
  verb: 'raise by',
  amount: '',
  ending: null,
  direction: 'nearest',
  largest: '30',
};

/** A rule on the working set as a sentence in three steps, beside what it does to every row of the set. */
@Component({
  selector: 'ivory-rule-bench',
  imports: [FormsModule, RouterLink, NzButtonModule, NzInputModule, NzSelectModule, SelectLabel, Bars, QuestionLine],
  templateUrl: './ruleBench.html',
  styleUrl: './ruleBench.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RuleBench {
  protected readonly words = words;
  protected readonly whole = whole;
  protected readonly share = share;
  protected readonly endings = ENDING_NAMES;
  protected readonly directions: readonly EndingDirection[] = ['nearest', 'up', 'down'];
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly inTurn = inject(InTurn);
  private readonly router = inject(Router);
  private readonly opener = inject(OpenRows);
  protected readonly set = this.store.selectSignal(workingSet.selectWorkingSetState);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  protected readonly names = computed(() => this.asking().names);
  private readonly shop = this.store.selectSignal(session.selectShop);

  private readonly begun = this.store.selectSignal(ruleDraft.selectRuleDraftState);
  protected readonly form = computed(
    (): RuleForm => this.begun().form ?? { ...AFRESH, floor: String((this.shop()?.floorMargin ?? 2500) / 100) },
  );
  private readonly amountField = viewChild<ElementRef<HTMLInputElement>>('amount');
  /** The rows that the rule was begun on, when others are the working set since. */
  protected readonly begunOn = computed(() => {
    const { form, question } = this.begun();
    return form && question !== this.set().question ? question : undefined;
  });
  protected readonly read = computed(() => readForm(this.form(), this.names().currency));
  private readonly wanted = toSignal(
    toObservable(
      computed(() => {
        const { rule } = this.read();
        return rule && this.set().answer ? { question: this.set().answer!.question, rule } : undefined;
      }),
    ).pipe(debounceTime(SETTLE)),
  );
  private readonly preview = rxResource({
    params: () => this.wanted(),
    stream: ({ params }) => this.api.call(calls.previewRule, { body: params }),
  });
  protected readonly computing = computed(() => this.preview.isLoading());
  /** The last effect stays in sight while the next is computed. */
  protected readonly effect = linkedSignal<Effect | undefined, Effect | undefined>({
    source: () => (this.preview.hasValue() ? this.preview.value() : undefined),
    computation: (now, before) => now ?? (this.read().rule ? before?.value : undefined),
  });
  protected readonly failed = computed(() => this.preview.error()?.message);
  protected readonly isPutting = signal(false);

  protected readonly charts = computed(() => {
    const effect = this.effect();
    const opens = byQuestionOrCount(this.set().question);
    return (
      effect && {
        prices: priceBars(effect.prices, opens, true),
        margins: marginBars(effect.margins, opens, true),
      }
    );
  });
  protected readonly stopped = computed(() =>
    Object.entries(this.effect()?.stopped ?? {})
      .filter(([, skus]) => skus > 0)
      .map(([reason, skus]) => ({ reason: reason as StopReason, skus })),
  );
  protected readonly stoppedInAll = computed(() => this.stopped().reduce((sum, { skus }) => sum + skus, 0));
  protected readonly samples = computed(() =>
    [...(this.effect()?.samples ?? [])]
      .sort((a, b) => attention(a) - attention(b))
      .map((sample) => ({
        ...sample,
        before: sample.before === null ? '–' : this.money(sample.before),
        after: sample.after === null ? '–' : this.money(sample.after),
        same: sample.before === sample.after,
        marginBefore: share(sample.marginBefore),
        marginAfter: share(sample.marginAfter),
      })),
  );

  constructor() {
    // What is typed first is the amount, and never a key that leads away.
    afterNextRender(async () => {
      const field = this.amountField()?.nativeElement;
      field?.focus();
      // The form fills its fields a moment later.
      await Promise.resolve();
      field?.select();
    });
    let seen = untracked(this.set).question;
    effect(() => {
      const { question } = this.set();
      if (question === seen) return;
      seen = question;
      // Rows that are asked for here are those that the rule is for.
      untracked(() => this.begun().form && this.change({}));
    });
  }

  protected change(part: Partial<RuleForm>): void {
    const { question } = this.set();
    this.store.dispatch(RuleActions.typed({ form: { ...this.form(), ...part }, question }));
  }

  protected takeRowsAgain(): void {
    this.store.dispatch(WorkingSetActions.ask({ question: this.begun().question }));
  }

  protected money(minorUnits: string): string {
    return showMoney(BigInt(minorUnits), this.names().currency);
  }

  protected openBar(opens: OpensBar): void {
    if ('question' in opens) this.opener.byQuestion(opens.question, '/prices');
    else this.open(opens.count);
  }

  /** A number of the effect opens: the rows that the rule, as it stands, would count there. */
  protected open(count: EffectCount): void {
    const { rule } = this.read();
    if (!rule) return;
    const { question } = this.set();
    this.opener.byList(words.rule.listOf(count), { kind: 'rule', question, rule, count }, '/prices');
  }

  /** Takes what the rule changes into the proof in hand. */
  protected put(): void {
    const { rule, sentence } = this.read();
    if (!rule) return;
    this.isPutting.set(true);
    const { question } = this.set();
    const title = words.rule.titled(sentence, question).slice(0, 400);
    this.inTurn.run(this.api.call(calls.putRule, { body: { question, title, rule } })).subscribe({
      next: ({ proof }) => {
        this.isPutting.set(false);
        this.store.dispatch(RuleActions.done());
        this.store.dispatch(HandActions.changed({ proof }));
        void this.router.navigateByUrl('/proof');
      },
      error: (error: unknown) => {
        this.isPutting.set(false);
        this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) }));
      },
    });
  }
}

/** Samples in the order in which they need a look: what goes the other way, what is stopped, what changes, what stays. */
const attention = ({ contrary, stoppedBy, before, after }: Effect['samples'][number]): number =>
  contrary ? 0 : stoppedBy !== null ? 1 : before === after ? 3 : 2;
