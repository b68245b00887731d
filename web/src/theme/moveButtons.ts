import { booleanAttribute, ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** The buttons of an entry of a list that is put in order by hand: earlier, later, and out of it. */
@Component({
  selector: 'ivory-move-buttons',
  template: `
    <button type="button" [attr.aria-label]="earlier()" [disabled]="isFirst()" (click)="moved.emit(-1)">
      {{ isAcross() ? '←' : '↑' }}
    </button>
    @if (later(); as label) {
      <button type="button" [attr.aria-label]="label" [disabled]="isLast()" (click)="moved.emit(1)">
        {{ isAcross() ? '→' : '↓' }}
      </button>
    }
    <button type="button" [attr.aria-label]="takeOut()" (click)="taken.emit()">×</button>
  `,
  styles: `
    :host {
      display: inline-flex;
      gap: 6px;
    }
    button {
      border: 0;
      background: none;
      color: var(--active);
      cursor: pointer;
      &:disabled {
        color: var(--rule);
        cursor: default;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoveButtons {
  /** What each button is called for this entry; a list that is moved one way only has no `later`. */
  readonly earlier = input.required<string>();
  readonly later = input<string>();
  readonly takeOut = input.required<string>();
  readonly isFirst = input(false);
  readonly isLast = input(false);
  /** The list runs from left to right. */
  readonly isAcross = input(false, { transform: booleanAttribute });
  readonly moved = output<-1 | 1>();
  readonly taken = output();
}
