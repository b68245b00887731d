import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { calls, type Effect } from '@ivory/contract';
import {
  ENDING_NAMES,
  type EndingDirection,
  type EffectCount,
  type EndingName,
  showMoney,
  type StopReason,
} from '@ivory/core';
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
import { HandActions } from '../state/hand.ts';
import { InTurn } from '../state/inTurn.ts';
import { session } from '../state/session.ts';
import { workingSet } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { share, whole } from '../words/numbers.ts';
import { type Form, readForm } from './ruleForm.ts';

const SETTLE = 200;

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
  protected readonly names = this.store.selectSignal(session.selectNames);
  private readonly shop = this.store.selectSignal(session.selectShop);

  protected readonly verb = signal<Form['verb']>('raise by');
  protected readonly amount = signal('');
  protected readonly ending = signal<EndingName | null>(null);
  protected readonly direction = signal<EndingDirection>('nearest');
  protected readonly floor = linkedSignal(() => String((this.shop()?.floorMargin ?? 2500) / 100));
  protected readonly largest = signal('30');

  private readonly form = computed((): Form => ({
    verb: this.verb(),
    amount: this.amount(),
    ending: this.ending(),
    direction: this.direction(),
    floor: this.floor(),
    largest: this.largest(),
  }));
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
    const title = `${sentence}${question ? `, ${words.rule.which.toLowerCase()}: ${question}` : ''}`.slice(0, 400);
    this.inTurn.run(this.api.call(calls.putRule, { body: { question, title, rule } })).subscribe({
      next: ({ proof }) => {
        this.isPutting.set(false);
        this.store.dispatch(HandActions.changed({ proof }));
        void this.router.navigateByUrl('/proof');
      },
      error: (error: unknown) => {
        this.isPutting.set(false);
        this.store.dispatch(HandActions.refused({ problem: detailsOf(error) }));
      },
    });
  }
}

/** Samples in the order in which they need a look: what goes the other way, what is stopped, what changes, what stays. */
const attention = ({ contrary, stoppedBy, before, after }: Effect['samples'][number]): number =>
  contrary ? 0 : stoppedBy !== null ? 1 : before === after ? 3 : 2;
