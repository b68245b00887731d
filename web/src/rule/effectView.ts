import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { type Effect } from '@ivory/contract';
import { type EffectCount, FAILURES, type RuleDraft } from '@ivory/core';
import { guardText } from '@ivory/core/rules';
import { Store } from '@ngrx/store';
import { Bars, type ChartBar } from '../charts/bars.ts';
import { byQuestionOrCount, marginBars, type OpensBar, priceBars } from '../charts/spreadBars.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { share, whole } from '../words/numbers.ts';
import { WordsDiffer } from '../theme/wordsDiffer.ts';

type FieldBars = Effect['fields'][number];
type Sample = Effect['samples'][number];

/** What a rule does to the whole set: counts that open, guards, spreads before and after, and some rows. */
@Component({
  selector: 'ivory-effect-view',
  imports: [Bars, WordsDiffer],
  templateUrl: './effectView.html',
  styleUrl: './effectView.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EffectView {
  readonly effect = input.required<Effect>();
  readonly draft = input.required<RuleDraft>();
  readonly question = input.required<string>();
  readonly opens = output<EffectCount>();
  readonly asks = output<string>();

  protected readonly words = words.rule;
  protected readonly whole = whole;
  protected readonly share = share;
  private readonly asking = inject(Store).selectSignal(session.selectAsking);
  protected readonly currency = computed(() => this.asking().names.currency.code);
  protected readonly pricesAxis = computed(() => words.slip.pricesAxis(this.currency()));
  protected readonly marginsAxis = words.slip.marginsAxis;

  /** What the numbers count: products, SKUs, or each of the two where the rule changes both. */
  protected readonly tallies = computed(() => {
    const { product, sku } = this.effect();
    const isAny = (tally: Effect['sku']) => Object.values(tally).some((many) => many > 0);
    const both = [
      { of: words.rule.ofProducts, tally: product },
      { of: words.rule.ofSkus, tally: sku },
    ].filter(({ tally }) => isAny(tally));
    return both.length > 0 ? both : [{ of: words.rule.ofSkus, tally: sku }];
  });

  /** What there is to look at, worst first; each opens what it counts. */
  protected readonly remarks = computed(() => {
    const { guards, failures, contrary } = this.effect();
    const remarks: { readonly text: string; readonly isStop: boolean; readonly count: EffectCount }[] = [];
    const say = (many: number, text: (things: string) => string, count: EffectCount, isStop = true) => {
      if (many > 0) remarks.push({ text: text(whole(many)), isStop, count });
    };
    say(contrary, words.rule.contrary, { of: 'contrary' }, false);
    for (const [place, { stopped, unknown, trimmed, told, below }] of guards.entries()) {
      const guard = this.guardText(place);
      say(below, words.rule.belowFloor, { of: 'below floor', place }, false);
      say(trimmed, (things) => words.rule.trimmedTo(things, guard), { of: 'trimmed', place }, false);
      say(told, (things) => words.rule.told(things, guard), { of: 'told', place }, false);
      say(stopped, (things) => words.rule.stoppedBy(things, guard), { of: 'guard', place });
      say(unknown, (things) => words.rule.unknown(things, guard), { of: 'unknown', place });
    }
    for (const why of FAILURES)
      say(failures[why], (things) => words.rule.failedWith(things, words.rule.failures[why]), { of: 'failure', why });
    return remarks;
  });

  protected readonly spread = computed(() => {
    const { spread } = this.effect();
    const opens = byQuestionOrCount(this.question());
    return (
      spread && {
        ...spread,
        prices: priceBars(spread.prices, opens, true),
        margins: marginBars(spread.margins, opens, true),
      }
    );
  });
  protected readonly fields = computed(() =>
    this.effect().fields.map((spread) => {
      const name = this.asking().register.find(spread.field)?.name ?? spread.field;
      return { ...spread, name, chart: spread.of === 'values' ? [] : chartOf(spread, name) };
    }),
  );
  protected readonly hasMargins = computed(() => this.effect().samples.some(({ marginAfter }) => marginAfter !== null));
  protected readonly severalFields = computed(() => new Set(this.draft().steps.map(({ field }) => field)).size > 1);
  protected readonly samples = computed(() =>
    [...this.effect().samples]
      .sort((a, b) => attention(a) - attention(b))
      .map((sample) => ({
        ...sample,
        values: sample.values.map(({ field, before, after }) => {
          const found = this.asking().register.find(field);
          const isText = found?.type === 'text' || found?.type === 'longText' || found?.type === 'richText';
          return {
            name: found?.name ?? field,
            before: before || '–',
            after: after || '–',
            isSame: before === after,
            isText: isText && sample.outcome === 'changes',
          };
        }),
        why: this.whyOf(sample),
      })),
  );

  private guardText(place: number): string {
    const guard = this.draft().guards[place];
    return guard ? guardText(guard, this.asking()).replace(/, (?:else|only) \w+$/, '') : '';
  }

  private whyOf({ stoppedBy, failed, contrary }: Sample): string {
    if (stoppedBy !== null) return this.guardText(stoppedBy);
    if (failed !== null) return words.rule.failures[failed];
    return contrary ? words.rule.otherWay : '';
  }

  protected openBar(opens: OpensBar): void {
    if ('question' in opens) this.asks.emit(opens.question);
    else this.opens.emit(opens.count);
  }
}

/** Bars of sizes or lengths; what stands now is not asked for by a question, so that both sides open what the rule makes. */
function chartOf({ field, bars }: FieldBars, name: string): ChartBar<EffectCount>[] {
  return bars.map(({ bar, before, after }) => {
    const label = bar === '' ? words.rule.none : bar === 'below' ? '<0' : bar;
    const opens: EffectCount = { of: 'value', field, bar };
    const column = (kind: 'before' | 'after', count: number) => ({
      kind,
      count,
      name: words.rule.barCounted(label, name, whole(count), words.rule[kind]),
      opens,
    });
    return { label, columns: [column('before', before), column('after', after)] };
  });
}

/** Samples in the order in which they need a look: what goes the other way, what is stopped, what changes, what stays. */
const attention = ({ contrary, outcome }: Sample): number =>
  contrary ? 0 : { stopped: 1, failed: 2, changes: 3, stays: 4 }[outcome];
