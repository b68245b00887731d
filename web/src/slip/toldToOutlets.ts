import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { Api } from '../api/api.ts';
import { moment } from '../api/moment.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';

/** What the file of each outlet says of an SKU at the moment that is looked at, or why it does not have it; read once it is asked for. */
@Component({
  selector: 'ivory-told-to-outlets',
  template: `
    @for (outlet of outlets(); track outlet.id) {
      <p>
        <button type="button" class="opens" [attr.aria-expanded]="open() === outlet.id" (click)="turn(outlet.id)">
          {{ words.told(outlet.name) }}
        </button>
      </p>
      @if (open() === outlet.id) {
        @if (told.error(); as error) {
          <p class="marked-stop">{{ error.message }}</p>
        } @else if (told.hasValue()) {
          @if (told.value(); as told) {
            @if (told.fields.length === 0) {
              <p class="marked-caution">{{ words.notTold(told.without) }}</p>
            } @else {
              <dl>
                @for (field of told.fields; track field.field) {
                  <dt [title]="field.field">{{ field.name }}</dt>
                  <dd>{{ field.value }}</dd>
                }
              </dl>
            }
          }
        } @else {
          <p class="soft">{{ words.telling }}</p>
        }
      }
    }
  `,
  styles: `
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 2px 10px;
      margin: 4px 0 8px;
    }
    dt {
      color: var(--soft-ink);
    }
    dd {
      margin: 0;
      overflow-wrap: anywhere;
      max-height: 60px;
      overflow: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ToldToOutlets {
  readonly sku = input.required<string>();
  /** What it is read again for. */
  readonly version = input<unknown>();

  protected readonly words = words.outlets;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly seen = this.store.selectSignal(moment.selectMomentState);
  protected readonly outlets = computed(() => this.shop()?.outlets ?? []);
  protected readonly open = signal<string | undefined>(undefined);
  protected readonly told = rxResource({
    params: () => {
      const [id, sku] = [this.open(), this.sku()];
      return id === undefined ? undefined : { id, sku, seen: this.seen(), version: this.version() };
    },
    stream: ({ params: { id, sku } }) => this.api.call(calls.tellOutlet, { params: { id }, query: { sku } }),
  });

  protected turn(id: string): void {
    this.open.update((open) => (open === id ? undefined : id));
  }
}
