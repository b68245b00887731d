import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { calls } from '@ivory/contract';
import { OWN_TYPES, type OwnTypeKey } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { Api } from '../api/api.ts';
import { SelectLabel } from '../theme/selectLabel.ts';
import { Proposing } from '../state/proposing.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** Another type for an attribute that goods have values of: says which values would not fit before it is proposed. */
@Component({
  selector: 'ivory-attribute-type',
  imports: [FormsModule, NzButtonModule, NzSelectModule, SelectLabel],
  template: `
    <h3>{{ words.lists.type }}</h3>
    <nz-select
      nzSize="small"
      [attr.aria-label]="words.lists.type"
      [ngModel]="type()"
      (ngModelChange)="type.set($event)"
    >
      @for (one of types; track one.key) {
        <nz-option [nzValue]="one.key" [nzLabel]="one.name" />
      }
    </nz-select>
    @if (type() === 'number') {
      <input
        [placeholder]="words.lists.unit"
        [attr.aria-label]="words.lists.unit"
        [value]="unit()"
        (change)="unit.set($any($event.target).value.trim())"
      />
    }
    @if (changes()) {
      <p role="status" [class.marked-caution]="lost() > 0">{{ says() }}</p>
      @for (one of unfit(); track one.value) {
        <p class="soft">{{ one.why }}</p>
      }
      <button nz-button nzSize="small" type="button" (click)="keep()">{{ words.lists.keep }}</button>
      <button
        nz-button
        nzSize="small"
        nzType="primary"
        type="button"
        [disabled]="!weighed.hasValue()"
        (click)="propose()"
      >
        {{ words.lists.changeType }}
      </button>
    }
  `,
  styles: `
    nz-select,
    input {
      width: 100%;
      box-sizing: border-box;
    }
    h3 {
      margin-top: 16px;
    }
    input {
      margin-top: 6px;
      padding: 2px 8px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
      color: var(--ink);
    }
    button {
      margin-right: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AttributeType {
  readonly id = input.required<string>();

  protected readonly words = words;
  protected readonly types = OWN_TYPES;
  private readonly api = inject(Api);
  private readonly proposing = inject(Proposing);
  private readonly shop = inject(Store).selectSignal(session.selectShop);
  private readonly standing = computed(() => this.shop()?.fields.find(({ id }) => id === this.id()));
  protected readonly type = linkedSignal<OwnTypeKey>(() => this.standing()?.type ?? 'text');
  protected readonly unit = linkedSignal(() => this.standing()?.unit ?? '');
  private readonly body = computed(() => ({
    id: this.id(),
    type: this.type(),
    unit: this.type() === 'number' ? this.unit() : '',
  }));
  protected readonly changes = computed(() => {
    const standing = this.standing();
    const { type, unit } = this.body();
    return standing !== undefined && (standing.type !== type || (standing.unit ?? '') !== unit);
  });
  protected readonly weighed = rxResource({
    params: () => (this.changes() ? this.body() : undefined),
    stream: ({ params }) => this.api.call(calls.changeType, { body: { ...params, propose: false } }),
  });
  protected readonly unfit = computed(() => (this.weighed.hasValue() ? this.weighed.value().unfit : []));
  protected readonly lost = computed(() => (this.weighed.hasValue() ? this.weighed.value().lost : 0));
  protected readonly says = computed(() => {
    if (this.weighed.error()) return this.weighed.error()!.message;
    if (!this.weighed.hasValue()) return words.sheet.loading;
    return words.lists.typeFits(whole(this.weighed.value().fits), whole(this.lost()));
  });

  protected keep(): void {
    this.type.set(this.standing()?.type ?? 'text');
    this.unit.set(this.standing()?.unit ?? '');
  }

  protected propose(): void {
    this.proposing.run(this.api.call(calls.changeType, { body: this.body() }));
  }
}
