import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { type Planned } from '@ivory/contract';
import { words } from '../words/en.ts';
import { ShopTime } from '../state/shopTime.ts';

/** When something that is planned happens, in words, and why it waits where it does. */
@Component({
  selector: 'ivory-planned-when',
  providers: [ShopTime],
  template: `
    @if (planned().state === 'waits') {
      <strong class="marked-caution">{{ words.waits }}</strong>&ngsp;<span>{{ planned().why }}</span>
    } @else {
      <span>{{ said() }}</span>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlannedWhen {
  readonly planned = input.required<Planned>();

  protected readonly words = words.planned;
  private readonly shopTime = inject(ShopTime);
  protected readonly said = computed(() => {
    const { at, back, landing } = this.planned();
    const lands =
      landing !== null ? this.words.landed : at === null ? this.words.byHand : this.words.landsAt(this.time(at));
    return back === null ? lands : `${lands}, ${this.words.backAt(this.time(back))}`;
  });

  private time(iso: string): string {
    return this.shopTime.transform(iso);
  }
}
