import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { SelectLabel } from '../theme/selectLabel.ts';
import { type Offered, textOf } from './offered.ts';

/** Chooses a value of a field among those that there are: one, or several where the field holds several. */
@Component({
  selector: 'ivory-choose-things',
  imports: [FormsModule, NzSelectModule, SelectLabel],
  template: `
    <nz-select
      nzSize="small"
      nzShowSearch
      [nzAllowClear]="mayBeEmpty()"
      [nzMode]="isSeveral() ? 'multiple' : 'default'"
      [nzPlaceHolder]="hint()"
      [attr.aria-label]="name()"
      [ngModel]="isSeveral() ? ids() : (ids()[0] ?? null)"
      (ngModelChange)="choose($event)"
    >
      @for (one of offered(); track one.id) {
        <nz-option [nzValue]="one.id" [nzLabel]="one.text" />
      }
    </nz-select>
  `,
  styles: `
    nz-select {
      width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChooseThings {
  readonly name = input.required<string>();
  readonly offered = input.required<readonly Offered[]>();
  readonly ids = input.required<readonly string[]>();
  readonly isSeveral = input(false);
  readonly mayBeEmpty = input(true);
  /** What stands there while nothing is chosen. */
  readonly hint = input('');
  /** The text that says what is chosen. */
  readonly chosen = output<string>();

  protected choose(ids: readonly string[] | string | null): void {
    this.chosen.emit(textOf(ids, this.offered()));
  }
}
