import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { calls } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { Api } from '../api/api.ts';
import { hand } from '../state/hand.ts';
import { words } from '../words/en.ts';

/** The assortments that stand at the head of a category, each leading to its own page. */
@Component({
  selector: 'ivory-category-assortments',
  imports: [RouterLink],
  template: `
    @for (one of heads(); track one.id) {
      <p>
        <a [routerLink]="['/folio', 'assortment', one.id]">{{ one.name }}</a>
      </p>
    } @empty {
      <p class="soft">{{ words.folio.noHeads }}</p>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CategoryAssortments {
  readonly category = input.required<string>();

  protected readonly words = words;
  private readonly api = inject(Api);
  private readonly version = inject(Store).selectSignal(hand.selectVersion);
  private readonly assortments = rxResource({
    params: () => ({ version: this.version() }),
    stream: () => this.api.call(calls.listThings, { params: { kind: 'assortment' }, query: {} }),
  });
  protected readonly heads = computed(() => {
    if (!this.assortments.hasValue()) return [];
    const { columns, things } = this.assortments.value();
    const [name, headOf] = [columns.indexOf('name'), columns.indexOf('headOf')];
    return things
      .filter(({ values }) => (values[headOf] ?? '').split('|').includes(this.category()))
      .map(({ id, values }) => ({ id, name: values[name] ?? '' }));
  });
}
