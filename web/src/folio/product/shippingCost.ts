import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { calls } from '@ivory/contract';
import { COUNTRIES, countriesByName, showMoney } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { Api } from '../../api/api.ts';
import { type ThingRows } from '../../lists/thingRows.ts';
import { SelectLabel } from '../../theme/selectLabel.ts';
import { session } from '../../state/session.ts';
import { words } from '../../words/en.ts';

const ALL = countriesByName(COUNTRIES);
const MOST_PIECES = 999;

/** What it would cost to ship pieces of a product to a country, and how that comes about. */
@Component({
  selector: 'ivory-shipping-cost',
  imports: [FormsModule, NzSelectModule, SelectLabel],
  template: `
    <p class="asked">
      <span>{{ words.title }}</span>
      <input
        type="number"
        min="1"
        max="${MOST_PIECES}"
        [attr.aria-label]="words.pieces"
        [ngModel]="pieces()"
        (ngModelChange)="pieces.set($event)"
      />
      @if (skus().length > 1) {
        <nz-select nzShowSearch [attr.aria-label]="words.which" [ngModel]="sku()" (ngModelChange)="sku.set($event)">
          @for (one of skus(); track one.id) {
            <nz-option [nzValue]="one.id" [nzLabel]="one.code" />
          }
        </nz-select>
      }
      <span>{{ words.to }}</span>
      <nz-select
        nzShowSearch
        class="country"
        [nzPlaceHolder]="words.country"
        [attr.aria-label]="words.country"
        [ngModel]="country()"
        (ngModelChange)="country.set($event)"
      >
        @for (one of countries; track one.code) {
          <nz-option [nzValue]="one.code" [nzLabel]="one.name" />
        }
      </nz-select>
    </p>
    <div role="status">
      @if (told(); as told) {
        @if (told.charge !== null) {
          <p>
            <strong class="number">{{ money(told.charge) }}</strong>
            @if (told.parts.length === 0) {
              <span class="soft">{{ words.none }}</span>
            }
          </p>
          @for (part of told.parts; track $index) {
            <p class="soft">
              {{
                part.isFree
                  ? words.free(part.profile, part.rate)
                  : words.how(part, money(part.first), money(part.further))
              }}
            </p>
          }
        } @else if (told.problem; as problem) {
          <p class="marked-stop">{{ words.problems[problem](name(), told.profile ?? '', told.weight ?? 0) }}</p>
        }
      } @else if (answer.error(); as error) {
        <p class="marked-stop">{{ error.message }}</p>
      }
    </div>
  `,
  styles: `
    .asked {
      margin: 12px 0 4px;
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
    }
    input {
      width: 64px;
      padding: 4px 8px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
      color: var(--ink);
    }
    nz-select {
      min-width: 150px;
    }
    .country {
      min-width: 200px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShippingCost {
  readonly rows = input.required<ThingRows>();
  protected readonly words = words.folio.shipping;
  protected readonly countries = ALL;
  private readonly api = inject(Api);
  private readonly asking = inject(Store).selectSignal(session.selectAsking);

  protected readonly pieces = signal(1);
  protected readonly country = signal<string | null>(null);
  protected readonly skus = computed(() =>
    this.rows().rows.flatMap(({ id, landed }) => (id !== undefined && landed?.code ? [{ id, code: landed.code }] : [])),
  );
  protected readonly sku = linkedSignal<string | undefined>(() => this.skus()[0]?.id);
  protected readonly name = computed(() => ALL.find(({ code }) => code === this.country())?.name ?? '');

  protected readonly answer = rxResource({
    params: () => {
      const [country, sku, pieces] = [this.country(), this.sku(), this.pieces()];
      const isCount = Number.isInteger(pieces) && pieces >= 1 && pieces <= MOST_PIECES;
      return country !== null && sku !== undefined && isCount ? { country, lines: [{ sku, pieces }] } : undefined;
    },
    stream: ({ params }) => this.api.call(calls.tellShipping, { body: params }),
  });
  protected readonly told = computed(() => (this.answer.hasValue() ? this.answer.value() : undefined));

  protected money(amount: string): string {
    return showMoney(BigInt(amount), this.asking().names.currency);
  }
}
