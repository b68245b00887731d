import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { calls } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { Api } from '../api/api.ts';
import { hand } from '../state/hand.ts';
import { Proposing } from '../state/proposing.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

const MOST_SHOWN = 500;

/** Goods that were cleared away: they keep all that they have, and come back from here. */
@Component({
  selector: 'ivory-cleared-away',
  imports: [NzButtonModule, RouterLink],
  template: `
    <div class="page">
      <h1>{{ words.cleared.title }}</h1>
      <p class="soft">{{ words.cleared.about }}</p>
      @if (products(); as products) {
        @if (products.length > 0) {
          <table class="plain">
            <thead>
              <tr>
                <th scope="col">{{ words.cleared.name }}</th>
                <th scope="col">{{ words.cleared.code }}</th>
                <th scope="col" class="number">{{ words.cleared.skus }}</th>
                <td></td>
              </tr>
            </thead>
            <tbody>
              @for (one of products; track one.id) {
                <tr>
                  <td>
                    <a [routerLink]="['/folio', 'product', one.id]">{{ one.name }}</a>
                  </td>
                  <td>{{ one.code }}</td>
                  <td class="number">{{ whole(one.skus) }}</td>
                  <td>
                    @if (one.comesBack) {
                      <span class="marked-caution">{{ words.cleared.comesBack }}</span>
                    } @else {
                      <button
                        nz-button
                        nzSize="small"
                        type="button"
                        [attr.aria-label]="words.cleared.bringOneBack(one.name)"
                        (click)="bringBack(one.id)"
                      >
                        {{ words.cleared.bringBack }}
                      </button>
                    }
                  </td>
                </tr>
              }
            </tbody>
          </table>
        } @else {
          <p>{{ words.cleared.none }}</p>
        }
      } @else if (read.error()) {
        <p class="marked-stop" role="alert">{{ read.error()?.message }}</p>
      } @else {
        <p class="soft">{{ words.sheet.loading }}</p>
      }
    </div>
  `,
  styles: `
    :host {
      flex: 1;
      min-height: 0;
      overflow: auto;
    }
    .page {
      padding: 16px 24px;
    }
    table {
      max-width: 860px;
    }
    h1 {
      margin: 0 0 4px;
      font-size: 22px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ClearedAway {
  protected readonly words = words;
  protected readonly whole = whole;
  private readonly api = inject(Api);
  private readonly proposing = inject(Proposing);
  private readonly store = inject(Store);
  private readonly version = this.store.selectSignal(hand.selectVersion);
  private readonly shop = this.store.selectSignal(session.selectShop);

  protected readonly read = rxResource({
    params: () => ({ version: this.version(), shop: this.shop()?.version }),
    stream: () => this.api.call(calls.listCleared, { query: { from: 0, count: MOST_SHOWN } }),
  });
  protected readonly products = computed(() => (this.read.hasValue() ? this.read.value().products : undefined));

  protected bringBack(id: string): void {
    const edits = [{ kind: 'product' as const, id, field: 'clearedAway' as const, text: 'no' }];
    this.proposing.run(this.api.call(calls.editCells, { body: { title: words.cleared.backTitle, edits } }));
  }
}
