import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api.ts';
import { hand } from '../state/hand.ts';
import { Proposing } from '../state/proposing.ts';
import { selectAskingInHand } from '../state/askingInHand.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';

/** Which attributes the goods of a category have and need: said here, or taken from a category above. */
@Component({
  selector: 'ivory-category-attributes',
  template: `
    <table class="plain">
      <thead>
        <tr>
          <th></th>
          <th>{{ words.folio.used }}</th>
          <th>{{ words.folio.needed }}</th>
        </tr>
      </thead>
      <tbody>
        @for (one of attributes(); track one.id) {
          <tr>
            <td>{{ one.name }}</td>
            @for (says of one.says; track says.key) {
              <td [class.changed]="says.changed">
                <label>
                  <input
                    type="checkbox"
                    [attr.aria-label]="
                      one.name + ': ' + (says.key === 'usedIn' ? words.folio.used : words.folio.needed)
                    "
                    [checked]="says.here || says.from !== undefined"
                    [disabled]="says.from !== undefined"
                    (change)="toggle(one.id, says.key, !says.here)"
                  />
                  <span class="soft">{{
                    says.from !== undefined ? words.folio.from(says.from) : says.here ? words.folio.here : ''
                  }}</span>
                </label>
              </td>
            }
          </tr>
        } @empty {
          <tr>
            <td colspan="3" class="soft">{{ words.folio.noAttributes }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    td,
    th {
      text-align: left;
      padding: 2px 16px 2px 0;
    }
    .changed {
      background: var(--changed);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CategoryAttributes {
  readonly category = input.required<string>();

  protected readonly words = words;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly proposing = inject(Proposing);
  private readonly asking = this.store.selectSignal(selectAskingInHand);
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly version = this.store.selectSignal(hand.selectVersion);
  private readonly lines = rxResource({
    params: () => ({ version: this.version() }),
    stream: () => this.api.call(calls.getHandLines, { params: { kind: 'attribute' } }),
  });

  protected readonly attributes = computed(() => {
    const lines = this.lines.hasValue() ? this.lines.value().lines : [];
    const fields = this.shop()?.fields.filter(({ kind }) => kind === 'attribute') ?? [];
    return fields.map(({ id, name, usedIn, neededIn }) => ({
      id,
      name,
      says: (
        [
          ['usedIn', usedIn],
          ['neededIn', neededIn],
        ] as const
      ).map(([key, standing]) => {
        const line = lines.find((one) => one.id === id && one.field === key);
        const ids = line ? (line.after ?? '').split('|').filter(Boolean) : standing;
        return { key, changed: line !== undefined, ...this.saidOf(ids) };
      }),
    }));
  });

  /** Whether a list of categories names this one, or one above it. */
  private saidOf(ids: readonly string[]): {
    readonly here: boolean;
    readonly from: string | undefined;
    readonly ids: readonly string[];
  } {
    const { categories } = this.asking().names;
    const above = categories.within(this.category()).slice(1);
    const from = above.find((id) => ids.includes(id));
    return { here: ids.includes(this.category()), from: from === undefined ? undefined : categories.path(from), ids };
  }

  protected toggle(attribute: string, key: FieldKey, isOn: boolean): void {
    const { categories } = this.asking().names;
    const said = this.attributes()
      .find(({ id }) => id === attribute)!
      .says.find((one) => one.key === key)!;
    const ids = isOn ? [...said.ids, this.category()] : said.ids.filter((id) => id !== this.category());
    const text = ids.map((id) => categories.path(id)).join(' | ');
    const edits = [{ kind: 'attribute' as const, id: attribute, field: key, text }];
    this.proposing.run(this.api.call(calls.editCells, { body: { title: words.sheet.edited(1), edits } }));
  }
}
