import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { type AnswerOf, type calls } from '@ivory/contract';
import { DAY_MS, type Moment, momentOf, money, pricesOver, type SalePrice, showMoney, standing } from '@ivory/core';
import { Store } from '@ngrx/store';
import { type DrawnStep, StepLine } from '../charts/stepLine.ts';
import { moment } from '../state/moment.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { ShopTime } from '../words/shopTime.ts';

type Candidates = AnswerOf<typeof calls.getSku>['candidates'];

const YEAR_DAYS = 365;
/** How far behind the last change the line goes on, as a part of the time before. */
const BEHIND = 0.15;

const at = (iso: string | null): Moment | null => (iso === null ? null : momentOf(Date.parse(iso)));

/** What shoppers pay for an SKU from now on: what is planned for the year that comes. Nothing is drawn where nothing changes. */
@Component({
  selector: 'ivory-price-ahead',
  imports: [ShopTime, StepLine],
  providers: [ShopTime],
  template: `
    @if (steps().length > 1) {
      <ivory-step-line
        [steps]="steps()"
        [until]="until()"
        [first]="words.moment.now"
        [last]="untilIso() | shopTime"
        [said]="said()"
        [mark]="mark()"
      />
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PriceAhead {
  readonly candidates = input.required<Candidates>();

  protected readonly words = words;
  private readonly store = inject(Store);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly looked = this.store.selectSignal(moment.selectAt);
  private readonly shopTime = inject(ShopTime);

  protected readonly steps = computed((): DrawnStep[] => {
    const now = momentOf(Date.now());
    const regular = this.candidates().find(({ source }) => source === 'regular');
    const sales = this.candidates()
      .filter(({ source }) => source === 'sale')
      .map(({ price, name, start, end, above, group }): SalePrice => {
        return { price: money(BigInt(price)), name: name ?? '', start: at(start), end: at(end), above, group };
      });
    const year = momentOf(now + YEAR_DAYS * DAY_MS);
    const prices = standing(regular ? money(BigInt(regular.price)) : null);
    return pricesOver(prices, sales, now, year).map(({ at, winner }) => {
      const shown = winner ? showMoney(winner.price, this.asking().names.currency) : '';
      const when = this.shopTime.transform(new Date(at).toISOString());
      const value = winner && Number(winner.price);
      return { at, value, shown, title: words.priceAhead.step(when, shown, winner?.name) };
    });
  });
  protected readonly until = computed(() => {
    const [first, last] = [this.steps()[0]!.at, this.steps().at(-1)!.at];
    return last + (last - first) * BEHIND + DAY_MS;
  });
  protected readonly untilIso = computed(() => new Date(this.until()).toISOString());
  protected readonly said = computed(() => words.priceAhead.said(this.steps().map(({ title }) => title)));
  protected readonly mark = computed(() => this.looked() ?? undefined);
}
