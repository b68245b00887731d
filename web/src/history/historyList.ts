import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { type AnswerOf, type calls } from '@ivory/contract';
import { isAmount, type KindKey, scopeOf, withoutScope } from '@ivory/core';
import { Store } from '@ngrx/store';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { ShopTime } from '../state/shopTime.ts';
import { ValueLine } from './valueLine.ts';

type Entry = AnswerOf<typeof calls.getSku>['history'][number];

/** What landed on a thing, the latest first; a number that changed is drawn over time when it is pressed. */
@Component({
  selector: 'ivory-history-list',
  imports: [RouterLink, ShopTime, ValueLine],
  template: `
    @if (drawn(); as line) {
      <h4>{{ line.name }}</h4>
      <ivory-value-line [kind]="line.kind" [thing]="line.thing" [field]="line.field" [name]="line.name" />
    }
    @for (entry of entries(); track $index) {
      <p>
        @if (lineOf(entry)) {
          <button
            type="button"
            class="opens"
            [attr.aria-label]="words.valueLine.show(entry.called)"
            [attr.aria-pressed]="field() === entry.field"
            (click)="field.set(field() === entry.field ? undefined : entry.field)"
          >
            {{ entry.called }}
          </button>
        } @else {
          {{ entry.called }}
        }
        &ngsp;<span class="was">{{ entry.before }}</span
        >{{ entry.after }}<br />
        <span class="soft">
          {{ entry.at | shopTime }}, <a routerLink="/journal">{{ entry.title }}</a>
        </span>
      </p>
    } @empty {
      <p class="soft">{{ words.slip.noHistory }}</p>
    }
  `,
  styles: `
    p {
      margin: 0 0 8px;
    }
    a {
      color: inherit;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HistoryList {
  readonly entries = input.required<readonly Entry[]>();
  /** The ids of the things that the entries are of, by their kinds: of goods the SKU and its product. */
  readonly things = input.required<Readonly<Partial<Record<KindKey, string>>>>();

  protected readonly words = words;
  private readonly asking = inject(Store).selectSignal(session.selectAsking);
  protected readonly field = signal<Entry['field'] | undefined>(undefined);

  protected readonly drawn = computed(() => {
    const entry = this.entries().find(({ field }) => field === this.field());
    return entry && this.lineOf(entry);
  });

  /** The line that an entry is a step of, where its value is a number. */
  protected lineOf({ field: key, called: name }: Entry) {
    for (const [kind, thing] of Object.entries(this.things()) as [KindKey, string][]) {
      const field = this.asking().register.at(kind, withoutScope(key), scopeOf(key));
      if (field && isAmount(field)) return { kind, thing, field: field.key, name };
    }
    return undefined;
  }
}
