import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { calls, type Effect, type KeptRule, type OnHand, problemWords } from '@ivory/contract';
import {
  type Result,
  type EffectCount,
  GUARD_KEYS,
  type GuardDraft,
  type GuardKey,
  type RuleDraft,
  showBasisPoints,
  type StepDraft,
} from '@ivory/core';
import { draftOfRule, parseGuard, parseRule, readRule, readStep, ruleText } from '@ivory/core/rules';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzInputModule } from 'ng-zorro-antd/input';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { debounceTime } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { OffersOnly } from '../theme/offersOnly.ts';
import { SelectLabel } from '../theme/selectLabel.ts';
import { OpenRows } from '../question/openRows.ts';
import { QuestionLine } from '../question/questionLine.ts';
import { HandActions } from '../state/handActions.ts';
import { InTurn } from '../state/inTurn.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { RuleActions, ruleDraft } from '../state/ruleDraft.ts';
import { session } from '../state/session.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { EffectView } from './effectView.ts';
import { GuardForm } from './guardForm.ts';
import { KeptRules } from './keptRules.ts';
import { blankGuard, blankStep, examples, typedSteps } from './newStep.ts';
import { ruleTitle } from './ruleTitle.ts';
import { StepForm } from './stepForm.ts';

const SETTLE = 200;
const WITHIN = /^within\s+/i;

/** A rule on the working set as sentences, step by step and within its guards, beside what it does to every row of the set. */
@Component({
  selector: 'ivory-rule-bench',
  imports: [
    EffectView,
    FormsModule,
    GuardForm,
    KeptRules,
    NzButtonModule,
    NzInputModule,
    NzSelectModule,
    QuestionLine,
    RouterLink,
    OffersOnly,
    SelectLabel,
    StepForm,
  ],
  templateUrl: './ruleBench.html',
  styleUrl: './ruleBench.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RuleBench {
  protected readonly words = words;
  protected readonly whole = whole;
  protected readonly guardKeys = GUARD_KEYS;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly inTurn = inject(InTurn);
  private readonly router = inject(Router);
  private readonly opener = inject(OpenRows);
  private readonly injector = inject(Injector);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly set = this.store.selectSignal(workingSet.selectWorkingSetState);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  protected readonly examples = computed(() => examples(this.asking()));
  private readonly shop = this.store.selectSignal(session.selectShop);

  private readonly begun = this.store.selectSignal(ruleDraft.selectRuleDraftState);
  protected readonly draft = computed((): RuleDraft => this.begun().draft ?? this.afresh());
  protected readonly kept = computed(() => this.begun().kept);
  /** The rows that the rule was begun on, when others are the working set since. */
  protected readonly begunOn = computed(() => {
    const { draft, question } = this.begun();
    return draft && question !== this.set().question ? question : undefined;
  });
  /** The rule as text while it is edited so. */
  protected readonly text = signal<string | undefined>(undefined);
  protected readonly textProblem = signal('');
  protected readonly typeProblem = signal('');
  /** What the rule makes of rows that the proof in hand changes already. */
  protected readonly onHand = signal<OnHand>('on top');
  /** A line that is typed and not taken in. */
  protected readonly typed = signal('');
  /** The rule that stands on the screen; undefined while anything on it does not read, or is not taken in. */
  protected readonly rule = computed(() =>
    this.textProblem() !== '' || this.typed().trim() !== '' ? undefined : readRule(this.draft(), this.asking()),
  );
  /** A table has no place in the text of a rule. */
  protected readonly hasTables = computed(() => this.draft().steps.some(({ table }) => table !== undefined));
  protected readonly changedKeys = computed(() => new Set(this.draft().steps.map(({ field }) => field)));
  private readonly wanted = toSignal(
    toObservable(
      computed(() => {
        const [rule, onHand] = [this.rule(), this.onHand()];
        return rule && this.set().answer ? { question: this.set().answer!.question, rule, onHand } : undefined;
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
    source: () => (this.rule() && this.preview.hasValue() ? this.preview.value() : undefined),
    computation: (now, before) => now ?? (this.rule() && !this.preview.error() ? before?.value : undefined),
  });
  protected readonly changes = computed(() => {
    const effect = this.effect();
    return effect ? effect.product.changes + effect.sku.changes : 0;
  });
  protected readonly failed = computed(() => this.preview.error()?.message);
  /** Whether the numbers on the screen are those of the rule and the rows on it: nothing else is put into the proof. */
  protected readonly isSettled = computed(
    () =>
      !this.preview.isLoading() &&
      this.rule() !== undefined &&
      this.wanted()?.rule === this.rule() &&
      this.wanted()?.onHand === this.onHand() &&
      this.wanted()?.question === this.set().answer?.question,
  );
  protected readonly isPutting = signal(false);

  constructor() {
    this.focusLastStep();
    let seen = untracked(this.set).question;
    effect(() => {
      const { question } = this.set();
      if (question === seen) return;
      seen = question;
      // Rows that are asked for here are those that the rule is for.
      untracked(() => this.begun().draft && this.change({}));
    });
  }

  /** A rule begins as most do, with the regular price and the limits of the shop. */
  private afresh(): RuleDraft {
    const floor = showBasisPoints(this.shop()?.floorMargin ?? 2500);
    const guards: GuardDraft[] = [
      { guard: 'margin', field: 'price', texts: { margin: floor }, does: 'stop' },
      { guard: 'largest change', field: 'price', texts: { by: '30 %' }, does: 'stop' },
    ];
    return { steps: [blankStep('raise', this.asking(), 'price')], guards };
  }

  private change(part: Partial<RuleDraft>): void {
    const { question } = this.set();
    this.store.dispatch(RuleActions.typed({ draft: { ...this.draft(), ...part }, question }));
  }

  /** What is typed next is what the last step still lacks, and never a key that leads away. */
  private focusLastStep(): void {
    afterNextRender(
      async () => {
        // The form fills its fields a moment later.
        await Promise.resolve();
        const last = [...this.host.nativeElement.querySelectorAll('ivory-step-form')].at(-1);
        const fields = [
          ...(last?.querySelectorAll<HTMLInputElement>('.said input, .several input, .choice input') ?? []),
        ];
        const field = fields.find(({ value }) => value === '') ?? fields[0];
        field?.focus();
        field?.select();
      },
      { injector: this.injector },
    );
  }

  protected changeStep(at: number, step: StepDraft): void {
    this.change({ steps: this.draft().steps.with(at, step) });
  }

  protected moveStep(at: number, by: -1 | 1): void {
    const steps = [...this.draft().steps];
    const to = at + by;
    if (to < 0 || to >= steps.length) return;
    [steps[at], steps[to]] = [steps[to]!, steps[at]!];
    this.change({ steps });
  }

  protected removeStep(at: number): void {
    this.change({ steps: this.draft().steps.toSpliced(at, 1) });
  }

  /** A line that is typed adds a step, or a guard where it begins with `within`. */
  protected addTyped(field: HTMLInputElement): void {
    const line = field.value.trim();
    if (line === '') {
      this.typeProblem.set('');
      return;
    }
    const read = WITHIN.test(line) ? this.addGuardOf(line) : this.addStepsOf(line);
    this.typeProblem.set(read.ok ? '' : problemWords(read.problem));
    if (!read.ok) return;
    field.value = '';
    this.typed.set('');
  }

  private addGuardOf(line: string): Result<GuardDraft> {
    const read = parseGuard(line.replace(WITHIN, ''), this.asking());
    if (read.ok) this.change({ guards: [...this.draft().guards, read.value] });
    return read;
  }

  private addStepsOf(line: string): Result<readonly StepDraft[]> {
    const read = typedSteps(line, this.asking());
    if (read.ok) read.value.forEach((step) => this.addStep(step));
    return read;
  }

  private addStep(step: StepDraft): void {
    // The first step that nothing was said of yet makes room for it.
    const said = this.draft().steps.filter(({ texts }) => Object.values(texts).some((text) => text !== ''));
    const hasBlank = said.length < this.draft().steps.length && this.begun().draft === null;
    this.change({ steps: [...(hasBlank ? said : this.draft().steps), step] });
    if (!readStep(step, this.asking()).value) this.focusLastStep();
  }

  protected changeGuard(at: number, guard: GuardDraft): void {
    this.change({ guards: this.draft().guards.with(at, guard) });
  }

  protected removeGuard(at: number): void {
    this.change({ guards: this.draft().guards.toSpliced(at, 1) });
  }

  protected addGuard(key: GuardKey | null): void {
    if (key === null) return;
    const guard = blankGuard(key, this.asking(), [...this.changedKeys()]);
    this.change({ guards: [...this.draft().guards, guard] });
  }

  /** Turns the form into text, and back where the text reads. */
  protected turn(): void {
    if (this.text() === undefined) {
      this.text.set(ruleText(this.draft(), this.asking()));
      this.textProblem.set('');
      // An unfinished line of the form is no longer on the screen.
      this.typed.set('');
      this.typeProblem.set('');
    } else if (this.textProblem() === '') this.text.set(undefined);
  }

  protected write(text: string): void {
    this.text.set(text);
    const read = parseRule(text, this.asking());
    this.textProblem.set(
      read.ok ? '' : problemWords({ ...read.problem, row: words.rule.line(read.problem.row ?? '') }),
    );
    if (read.ok) this.change(read.value);
  }

  /** A kept rule comes with its own rows, where it has some. */
  protected take({ id, rule, question }: KeptRule): void {
    this.text.set(undefined);
    this.textProblem.set('');
    this.store.dispatch(RuleActions.held({ kept: id }));
    const draft = draftOfRule(rule, this.asking());
    this.store.dispatch(RuleActions.typed({ draft, question: question ?? this.set().question }));
    if (question !== null) this.store.dispatch(WorkingSetActions.ask({ question }));
  }

  protected hold(kept: string | null): void {
    this.store.dispatch(RuleActions.held({ kept }));
  }

  protected takeRowsAgain(): void {
    this.store.dispatch(WorkingSetActions.ask({ question: this.begun().question }));
  }

  protected ask(question: string): void {
    this.opener.byQuestion(question, '/prices');
  }

  /** A number of the effect opens: the rows that the rule, as it stands, would count there. */
  protected open(count: EffectCount): void {
    const rule = this.rule();
    if (!rule) return;
    const { question } = this.set();
    this.opener.byList(
      words.rule.listOf(count),
      { kind: 'rule', question, rule, count, onHand: this.onHand() },
      '/prices',
    );
  }

  /** Takes what the rule changes into the proof in hand. */
  /** What the table of a step met nothing of, as long as the numbers are those of the rule on the screen. */
  protected unmetOf(step: number): Effect['unmet'][number] | undefined {
    return this.isSettled() ? this.effect()?.unmet.find((one) => one.step === step) : undefined;
  }

  protected put(): void {
    const seen = this.wanted();
    if (!seen || !this.isSettled()) return;
    const { rule, question, onHand } = seen;
    this.isPutting.set(true);
    const title = ruleTitle(this.draft(), question, this.asking());
    const kept = this.kept();
    const body = { question, title, rule, onHand, ...(kept !== null && { kept }) };
    this.inTurn.run(this.api.call(calls.putRule, { body })).subscribe({
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
