import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { type AnswerOf, type calls } from '@ivory/contract';
import {
  DAY_MS,
  type Moment,
  momentOf,
  type Money,
  money,
  pricesOver,
  type SalePrice,
  showMoney,
  standing,
} from '@ivory/core';
import { Store } from '@ngrx/store';
import { type DrawnStep, StepLine } from '../charts/stepLine.ts';
import { moment } from '../api/moment.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { ShopTime } from '../state/shopTime.ts';

type Candidates = AnswerOf<typeof calls.getSku>['candidates'];

const YEAR_DAYS = 365;
/** How far behind the last change the line goes on, as a part of the time before. */
const BEHIND = 0.15;

const at = (iso: string | null): Moment | null => (iso === null ? null : momentOf(Date.parse(iso)));

/** A price from a moment on, with the sale that it comes of; null where none is known. */
interface Paid {
  readonly at: Moment;
  readonly price: Money | null;
  readonly name: string | null;
}
const differs = (a: Paid | undefined, b: Paid) => a?.price !== b.price || a.name !== b.name;

/** What shoppers paid for an SKU in the year before, from the record, and will in the year that comes. Nothing is drawn where nothing changes. */
@Component({
  selector: 'ivory-price-ahead',
  imports: [ShopTime, StepLine],
  providers: [ShopTime],
  template: `
    @if (steps().length > 1) {
      <ivory-step-line
        [steps]="steps()"
        [until]="until()"
        [first]="first()"
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
  /** What was charged until the moment that is looked at. */
  readonly charged = input.required<AnswerOf<typeof calls.getSku>['charged']>();

  private readonly store = inject(Store);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly looked = this.store.selectSignal(moment.selectAt);
  private readonly shopTime = inject(ShopTime);
  private readonly opened = Date.now();
  private readonly groupName = this.store.selectSignal(session.selectGroupName);

  protected readonly steps = computed((): DrawnStep[] => {
    const now = momentOf(Date.now());
    const looked = this.looked();
    const before = this.charged()
      .map(({ at, price, name }) => ({
        at: momentOf(Date.parse(at)),
        price: price === null ? null : money(BigInt(price)),
        name,
      }))
      .filter(({ at }) => at < now);
    // A single price of before is the one that stands now, and no news; at a past moment, what came after it is not told.
    const past = before.filter(({ price }, i) => price !== null || i > 0);
    const ahead = looked !== null && looked < now ? [] : this.ahead(now);
    const steps =
      ahead.length > 0 && past.length === 1
        ? ahead
        : [...past, ...ahead.filter((step, i) => i > 0 || differs(past.at(-1), step))];
    return steps.map(({ at, price, name }) => {
      const shown = price === null ? '' : showMoney(price, this.asking().names.currency);
      const when = this.shopTime.transform(new Date(at).toISOString());
      const value = price === null ? undefined : Number(price);
      return { at, value, shown, title: words.priceAhead.step(when, shown, name) };
    });
  });
  protected readonly first = computed(() => {
    const { at } = this.steps()[0]!;
    return at >= Date.now() - DAY_MS ? words.moment.now : this.shopTime.transform(new Date(at).toISOString());
  });
  protected readonly until = computed(() => {
    const [first, last] = [this.steps()[0]!.at, this.steps().at(-1)!.at];
    return last + (last - first) * BEHIND + DAY_MS;
  });
  protected readonly untilIso = computed(() => new Date(this.until()).toISOString());
  protected readonly said = computed(() => words.priceAhead.said(this.steps().map(({ title }) => title)));
  protected readonly mark = computed(() => this.looked() ?? this.opened);

  /** What is planned from now on, for the year that comes. */
  private ahead(now: Moment): Paid[] {
    const regular = this.candidates().find(({ source }) => source === 'regular');
    const sales = this.candidates()
      .filter(({ source }) => source === 'sale')
      .map(({ price, name, start, end, above, group, least }): SalePrice => {
        return { price: money(BigInt(price)), name: name ?? '', start: at(start), end: at(end), above, group, least };
      });
    const buyer = { group: this.groupName() ?? null, pieces: 1 };
    const prices = standing(regular ? money(BigInt(regular.price)) : null);
    return pricesOver(prices, sales, now, momentOf(now + YEAR_DAYS * DAY_MS), buyer).map(({ at, winner }) => {
      return { at, price: winner?.price ?? null, name: winner?.name ?? null };
    });
  }
}
