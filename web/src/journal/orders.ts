import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { type AnswerOf, calls } from '@ivory/contract';
import { countriesByName, COUNTRIES, showMoney } from '@ivory/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api.ts';
import { hand } from '../state/hand.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { ShopTime } from '../state/shopTime.ts';

type Order = AnswerOf<typeof calls.listOrders>['orders'][number];

const NAMES = new Map(countriesByName(COUNTRIES).map(({ code, name }) => [code, name]));

/** The orders that the shop took: what goes where, and what shoppers want written on it. */
@Component({
  selector: 'ivory-orders',
  imports: [RouterLink, ShopTime],
  templateUrl: './orders.html',
  styles: `
    a {
      color: var(--active);
    }
    td {
      vertical-align: top;
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    .written {
      margin: 0 0 4px;
      overflow-wrap: anywhere;
      white-space: pre-wrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Orders {
  protected readonly words = words.orders;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly version = this.store.selectSignal(hand.selectVersion);

  protected readonly latest = rxResource({
    params: () => this.version(),
    stream: () => this.api.call(calls.listOrders, { query: {} }),
  });
  /** Orders that were read further back. */
  private readonly further = signal<readonly Order[]>([]);
  private readonly hasMore = signal<boolean | undefined>(undefined);
  protected readonly orders = computed(() => {
    const latest = this.latest.hasValue() ? this.latest.value().orders : [];
    const last = latest.at(-1)?.id;
    return [...latest, ...this.further().filter(({ id }) => last === undefined || BigInt(id) < BigInt(last))];
  });
  protected readonly more = computed(
    () => this.hasMore() ?? (this.latest.hasValue() ? this.latest.value().more : false),
  );

  protected readEarlier(): void {
    const before = this.orders().at(-1)?.id;
    if (before === undefined) return;
    this.api.call(calls.listOrders, { query: { before } }).subscribe(({ orders, more }) => {
      this.further.update((further) => [...further, ...orders]);
      this.hasMore.set(more);
    });
  }

  protected money(amount: string): string {
    return showMoney(BigInt(amount), this.asking().names.currency);
  }

  protected country(code: string | null): string {
    return code === null ? this.words.nowhere : (NAMES.get(code) ?? code);
  }
}
